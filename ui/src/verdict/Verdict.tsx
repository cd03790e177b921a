import { useContext } from "react";
import { ProblemsContext, useWorked } from "../design/use-evaluation";
import { FigureButton } from "../parts/FigureButton";
import { quantity } from "../units/format";
import { Findings } from "./Findings";
import { JarPicture } from "./JarPicture";

/** How long, what stops it, the jar, the findings. Always in sight. */
export function Verdict() {
  const { evaluation } = useWorked();
  const problems = useContext(ProblemsContext);
  const { verdict, jar } = evaluation;
  const stale = problems.length > 0;
  return (
    <div data-verdict={verdict.cause} data-stale={stale}>
      {stale ? (
        <p role="alert" className="mb-3 rounded border border-stop p-2 text-sm text-stop">
          A value is refused: {problems[0]?.path} {problems[0]?.message}. The figures below are from
          before it, and nothing is saved until it is right.
        </p>
      ) : null}
      <p className="text-soft text-sm">With everything here, from full</p>
      <h2 className="mt-0.5 text-3xl leading-tight" aria-live="polite" data-part="hours">
        {verdict.hours === null ? (
          "No end in sight"
        ) : (
          <FigureButton of="run.hours" className="decoration-1 underline-offset-6">
            {verdict.lasts.charAt(0).toUpperCase() + verdict.lasts.slice(1)}
          </FigureButton>
        )}
      </h2>
      <p className="mt-1 text-sm" data-part="then">
        {verdict.hours !== null && verdict.cause !== "nothing can run" ? "Then: " : ""}
        {verdict.then}
      </p>
      <p className="text-sm">
        <span className={verdict.meets_goal ? "text-moss" : "text-fix"}>
          {verdict.meets_goal ? "✓ Meets" : "▲ Short of"} the goal of{" "}
          {quantity(verdict.goal_hours, "h")}.
        </span>
      </p>
      {verdict.trips.length ? (
        <p className="mt-1 rounded border border-fix px-2 py-1 text-sm" data-part="trips">
          <strong>But it trips before that</strong> once all of it runs together:{" "}
          {verdict.trips.join("; ")}.
        </p>
      ) : null}
      <div className="mx-auto mt-2 max-w-80">
        <JarPicture jar={jar} order={evaluation.loads.map((load) => load.id)} />
      </div>
      <p className="mt-1 mb-3 flex flex-wrap justify-center gap-x-4 text-sm">
        <span>
          a day <FigureButton of="day.wh" className="font-semibold" />
        </span>
        <span>
          usable <FigureButton of="bank.usable" className="font-semibold" />
        </span>
        <span>
          reaches the loads <FigureButton of="day.path_efficiency" digits={2} />
        </span>
      </p>
      <Findings />
    </div>
  );
}
