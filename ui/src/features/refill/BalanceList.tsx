import { api } from "../../api/client";
import type { Balance, Refill } from "../../api/types";
import type { Stamp } from "../../design/stamp";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { Answered } from "../../editor/Answered";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";

const COLOURS: Record<Balance["what"], string> = {
  panel: "var(--sun)",
  engine: "var(--engine)",
  charger: "var(--moss)",
  mains: "var(--socket)",
};

/** Single changes with which every week ends as it began, each found by running it. */
export function BalanceList({ refill }: { refill: Refill }) {
  const short = refill.trend === "runs down";
  const answer = useAnswer("balance", api.balance, { enabled: short });
  if (!short) {
    return (
      <p className="text-soft text-sm">
        {refill.trend === "no source"
          ? "Add a source first; then this says how much of it is enough."
          : "Nothing to do: a week ends no emptier than it began."}
      </p>
    );
  }
  return (
    <Answered answer={answer} loading="Running weeks" failed="This cannot be worked out">
      {(rows) => <Rows rows={rows} stamp={answer.stamp} />}
    </Answered>
  );
}

function Rows({ rows, stamp }: { rows: readonly Balance[]; stamp: Stamp | null }) {
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  if (!rows.length) {
    return (
      <p className="text-soft text-sm">
        It balances over several weeks: this week began fuller than the next ones will.
      </p>
    );
  }
  const use = (row: Balance) => {
    if (stamp && apply(row.label, row.edits, stamp)) {
      notify(`${row.label}: applied.`, { label: "Undo", act: undo });
    }
  };
  const most = Math.max(...rows.map((row) => row.share), 1);
  return (
    <ul className="text-sm">
      {rows.map((row) => (
        <li
          key={`${row.what} ${row.subject}`}
          className="flex min-h-10 flex-wrap items-center gap-3 border-line border-t py-1"
          data-balance={row.what}
          data-possible={row.possible}
        >
          <span className={`min-w-0 flex-1 basis-56 ${row.possible ? "" : "text-soft"}`}>
            {row.label}
          </span>
          {row.possible ? (
            <>
              <svg width="110" height="8" aria-hidden="true">
                <rect width="110" height="8" rx="4" fill="var(--line)" />
                <rect width={(110 * row.share) / most} height="8" rx="4" fill={COLOURS[row.what]} />
              </svg>
              <Button onClick={() => use(row)} aria-label={`Use: ${row.label}`}>
                Use
              </Button>
            </>
          ) : null}
        </li>
      ))}
    </ul>
  );
}
