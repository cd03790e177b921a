import type { ReactNode } from "react";
import { usePlan } from "../../design/selection";
import { useWorked } from "../../design/use-evaluation";
import { SEVERITIES } from "../../pictures/severities";

interface PickProps {
  name: string;
  things: readonly { id: string; name: string }[];
  /** The one whose fields are below. */
  at: string;
  children?: ReactNode;
}

/** Things of one kind by name, each with its gravest finding, to choose which is edited below. */
export function Pick({ name, things, at, children }: PickProps) {
  const { evaluation } = useWorked();
  const select = usePlan((state) => state.select);
  return (
    <nav aria-label={name} className="mb-2 flex flex-wrap items-center gap-1.5">
      {things.map((one) => {
        const worst = evaluation.findings.find(
          (finding) => finding.subject === one.id && finding.severity !== "note",
        );
        return (
          <button
            key={one.id}
            type="button"
            aria-pressed={one.id === at}
            className="rounded-full border border-edge px-3 py-0.5 text-sm aria-pressed:border-river aria-pressed:bg-river-wash aria-pressed:font-semibold"
            onClick={() => select(one.id)}
            data-pick={one.id}
          >
            {worst ? (
              <span className={SEVERITIES[worst.severity].colour.split(" ")[0]}>
                {SEVERITIES[worst.severity].shape}{" "}
              </span>
            ) : null}
            {one.name}
          </button>
        );
      })}
      {children}
    </nav>
  );
}
