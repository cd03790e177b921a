import { api } from "../../api/client";
import type { MonthRow } from "../../api/types";
import { useAnswer } from "../../design/use-answer";
import { Answered } from "../../editor/Answered";
import { quantity } from "../../lib/format";
import { MONTHS } from "./refill";

const HEIGHT = 64;

interface YearStripProps {
  /** The month that is shown, 1 to 12. */
  month: number;
  onMonth: (month: number) => void;
}

/** The week in every month: what comes in against what a day asks for, and whether it keeps up. */
export function YearStrip({ month, onMonth }: YearStripProps) {
  const answer = useAnswer("year", api.year);
  return (
    <section aria-label="The year" className="mt-3" data-part="year">
      <h2 className="text-lg">
        The year{" "}
        <span className="font-normal text-soft text-sm">
          two such weeks in a row in every month, the second shown: by then a full start is used up
        </span>
      </h2>
      <Answered answer={answer} loading="Running every month" failed="This cannot be worked out">
        {(rows) => <Months rows={rows} month={month} onMonth={onMonth} />}
      </Answered>
    </section>
  );
}

function Months({ rows, month, onMonth }: YearStripProps & { rows: readonly MonthRow[] }) {
  const most = Math.max(1, ...rows.map((row) => Math.max(row.in_wh, row.asked_wh)));
  const high = (wh: number) => (wh / most) * HEIGHT;
  const good = rows.filter((row) => row.keeps_up).length;
  return (
    <>
      <p className="text-sm" data-part="year-says">
        {good === 12
          ? "It keeps up all year."
          : good === 0
            ? "It keeps up in no month."
            : `It keeps up in ${good} of 12 months.`}
      </p>
      <ol className="grid grid-cols-12 gap-1 text-xs">
        {rows.map((row) => {
          const name = MONTHS[row.month - 1] ?? "";
          const says = `${name}: ${quantity(row.in_wh, "Wh")} a day of ${quantity(row.asked_wh, "Wh")}, ${row.keeps_up ? "keeps up" : "runs down"}`;
          return (
            <li key={row.month} className="min-w-0">
              <button
                type="button"
                title={says}
                aria-pressed={row.month === month}
                className="flex w-full flex-col items-center rounded border border-transparent pt-1 hover:bg-river-wash aria-pressed:border-river"
                onClick={() => onMonth(row.month)}
                data-month={row.month}
                data-keeps-up={row.keeps_up}
              >
                <svg width="100%" height={HEIGHT} viewBox={`0 0 30 ${HEIGHT}`} aria-hidden="true">
                  <rect
                    x={6}
                    width={18}
                    y={HEIGHT - high(row.in_wh)}
                    height={high(row.in_wh)}
                    fill="var(--engine)"
                  />
                  <rect
                    x={6}
                    width={18}
                    y={HEIGHT - high(row.sun_wh)}
                    height={high(row.sun_wh)}
                    fill="var(--sun)"
                  />
                  <line
                    x1={1}
                    x2={29}
                    y1={HEIGHT - high(row.asked_wh)}
                    y2={HEIGHT - high(row.asked_wh)}
                    stroke="var(--ink)"
                    strokeWidth={1.5}
                  />
                </svg>
                <span className="truncate">{name.slice(0, 3)}</span>
                <span className="sr-only">{says}</span>
                <span
                  aria-hidden="true"
                  className={row.keeps_up ? "text-moss" : "font-semibold text-fix"}
                >
                  {row.keeps_up ? "✓" : "▲"}
                </span>
              </button>
            </li>
          );
        })}
      </ol>
      <p className="text-soft text-xs">
        Bars: what comes in on a mean day of the second week, the sun at the bottom; the week above
        is the first. Line: what a day needs if nothing stops. Once full, no more comes in than goes
        out. Only the sun changes with the month.
      </p>
    </>
  );
}
