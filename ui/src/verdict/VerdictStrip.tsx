import { memo } from "react";
import { useWorked } from "../design/use-evaluation";
import { SEVERITIES } from "../pictures/severities";

/** The verdict in one line, for screens with no room beside the work. */
export const VerdictStrip = memo(function VerdictStrip() {
  const { evaluation } = useWorked();
  const { verdict, findings } = evaluation;
  const worst = findings.find((finding) => finding.severity !== "note");
  return (
    <aside aria-label="Verdict in short" className="no-print sticky top-13 z-20 lg:hidden">
      <a
        href="#verdict"
        className="flex items-baseline gap-3 border-line border-b bg-bench px-4 py-1.5"
      >
        <strong className="whitespace-nowrap font-head text-lg">
          {verdict.hours === null ? "No end within the simulated time" : verdict.lasts}
        </strong>
        {worst ? (
          <span className={`truncate text-sm ${SEVERITIES[worst.severity].colour.split(" ")[0]}`}>
            <span aria-hidden="true">{SEVERITIES[worst.severity].shape}</span>{" "}
            {SEVERITIES[worst.severity].word}: {worst.title}
          </span>
        ) : null}
      </a>
    </aside>
  );
});
