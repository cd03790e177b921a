import type { Refill, WeekDay } from "../../api/types";
import { useDesign } from "../../design/store";
import { LEFT } from "./WeekChart";

const OFF = "off";
const SUNS = ["good", "usual", "poor"] as const;
const SUN_MARKS = { good: "☀", usual: "", poor: "☁" };

/** The days below the week: a click changes the sun, the engine or the mains of one. */
export function Days({ refill }: { refill: Refill }) {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  if (!design) return null;
  const kinds = new Set(design.stores.map((store) => store.kind));
  const set = (index: number, part: Partial<WeekDay>, what: string) =>
    change(what, (d) => ({
      ...d,
      week: {
        ...d.week,
        days: d.week.days.map((day, n) => (n === index ? { ...day, ...part } : day)),
      },
    }));
  return (
    <ol className="grid grid-cols-7 gap-1 pr-2 text-xs" style={{ paddingLeft: LEFT }}>
      {refill.days.map((day, index) => {
        const next = SUNS[(SUNS.indexOf(day.sun) + 1) % SUNS.length] ?? "usual";
        return (
          <li key={day.name} className="flex min-w-0 flex-col items-stretch gap-1">
            <span className="truncate text-center font-semibold">
              {day.name.slice(0, 3)}
              {day.full ? <span className="font-normal text-moss max-sm:hidden"> full</span> : null}
            </span>
            {kinds.has("sun") ? (
              <Pill
                on={day.sun !== "poor"}
                colour="var(--sun)"
                label={`${day.name}, sun: ${day.sun}`}
                mark={SUN_MARKS[day.sun]}
                onClick={() => set(index, { sun: next }, `${day.name}: ${next} sun`)}
              >
                {day.sun}
              </Pill>
            ) : null}
            {kinds.has("vehicle") ? (
              <Pill
                on={day.engine}
                colour="var(--engine)"
                label={`${day.name}: engine${day.engine ? "" : " off"}`}
                onClick={() => set(index, { engine: !day.engine }, `${day.name}: engine`)}
              >
                {day.engine ? "engine" : OFF}
              </Pill>
            ) : null}
            {kinds.has("mains") ? (
              <Pill
                on={day.mains}
                colour="var(--socket)"
                label={`${day.name}: mains${day.mains ? "" : " off"}`}
                onClick={() => set(index, { mains: !day.mains }, `${day.name}: mains`)}
              >
                {day.mains ? "mains" : OFF}
              </Pill>
            ) : null}
          </li>
        );
      })}
    </ol>
  );
}

interface PillProps {
  on: boolean;
  colour: string;
  label: string;
  mark?: string;
  onClick: () => void;
  children: string;
}

function Pill({ on, colour, label, mark, onClick, children }: PillProps) {
  return (
    <button
      type="button"
      aria-label={label}
      className="min-h-7 truncate rounded-full border bg-card px-1 text-ink max-sm:px-0 max-sm:text-[0.65rem]"
      style={{ borderColor: on ? colour : "var(--edge)", borderStyle: on ? "solid" : "dashed" }}
      onClick={onClick}
    >
      {mark ? (
        <span aria-hidden="true" className="max-sm:hidden">
          {mark}{" "}
        </span>
      ) : null}
      {children}
    </button>
  );
}
