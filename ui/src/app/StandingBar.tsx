import { useContext, useEffect, useState } from "react";
import { placeInWords, problemInWords } from "../design/place-words";
import { useDesign } from "../design/store";
import { ProblemsContext, StandingContext } from "../design/use-evaluation";

/** After so long an answer on its way is told of; most are there before. [ms] */
const SLOW_MS = 700;

/** Whether the figures on screen are of the design on screen: on every view, in one place. */
export function StandingBar() {
  const standing = useContext(StandingContext);
  const problems = useContext(ProblemsContext);
  const design = useDesign((state) => state.document);
  const undo = useDesign((state) => state.undo);
  const undoes = useDesign((state) => state.past.length > 0);
  const slow = useSlow(standing.status === "updating");
  useEffect(() => {
    document.documentElement.dataset.evaluation = standing.status;
    return () => {
      delete document.documentElement.dataset.evaluation;
    };
  }, [standing.status]);
  if (standing.status === "stale") {
    const refused = problems[0];
    return (
      <p
        role="alert"
        className="-mx-4 basis-[calc(100%+2rem)] border-stop border-b-2 bg-card px-4 py-1 text-sm text-stop"
        data-standing="stale"
      >
        <span aria-hidden="true">■ </span>
        <strong>Out of date.</strong>{" "}
        {refused
          ? `A value is refused. ${placeInWords(refused.path, design)} ${problemInWords(refused)}. The figures are from before it, and nothing is saved until it is right.`
          : `The figures below are from before your last change. ${standing.why} Trying again.`}
        {refused && undoes ? (
          <button type="button" className="ml-2 font-semibold underline" onClick={undo}>
            Undo
          </button>
        ) : null}
      </p>
    );
  }
  return (
    <p
      role="status"
      // Over the page, not above it: what a person is about to click must not move away.
      className={
        slow
          ? "pointer-events-none absolute top-full right-4 rounded-b border border-line border-t-0 bg-bench px-3 py-0.5 text-sm text-soft"
          : "sr-only"
      }
      data-standing={standing.status}
    >
      {slow ? "Working out the figures for your last change …" : ""}
    </p>
  );
}

/** Whether something has lasted. */
function useSlow(on: boolean): boolean {
  const [slow, setSlow] = useState(false);
  useEffect(() => {
    setSlow(false);
    if (!on) return;
    const timer = setTimeout(() => setSlow(true), SLOW_MS);
    return () => clearTimeout(timer);
  }, [on]);
  return slow && on;
}
