import { memo, useContext, useMemo } from "react";
import type { Evaluation } from "../api/types";
import { useDesign } from "../design/store";
import { StandingContext, useWorked } from "../design/use-evaluation";
import { FigureButton } from "../editor/FigureButton";
import { hours, quantity } from "../lib/format";
import { Cautions } from "./Cautions";
import { Findings } from "./Findings";
import { JarPicture } from "./JarPicture";
import { WhatHappens } from "./WhatHappens";

const capital = (text: string) => text.charAt(0).toUpperCase() + text.slice(1);

/** How long, what stops it, the jar, the findings. Always in sight. */
export const Verdict = memo(function Verdict() {
  const { verdict } = useWorked().evaluation;
  const stale = useContext(StandingContext).status === "stale";
  return (
    <div data-verdict={verdict.cause} data-stale={stale}>
      {stale ? <p className="font-semibold text-sm text-stop">Before your last change:</p> : null}
      <VerdictBody />
    </div>
  );
});

/** What the verdict says. An edit does not draw it anew, only the next evaluation does. */
const VerdictBody = memo(function VerdictBody() {
  const { evaluation } = useWorked();
  const full = useDesign((state) =>
    state.document?.stores.every((store) => !("starts_at" in store) || store.starts_at === 1),
  );
  const startsAt = useDesign((state) => state.document?.setting.starts_at_h ?? 0);
  const order = useMemo(() => evaluation.loads.map((load) => load.id), [evaluation.loads]);
  const { verdict, jar, band, run } = evaluation;
  return (
    <>
      <p className="text-soft text-sm">
        With everything here, from {full ? "full" : "the charge at the start"}
      </p>
      <h2 className="mt-0.5 text-3xl leading-tight" aria-live="polite" data-part="hours">
        {verdict.hours === null ? (
          verdict.cause === "nothing drains it" ? (
            "No end within the simulated time"
          ) : (
            capital(verdict.lasts)
          )
        ) : (
          <FigureButton of="run.hours" className="decoration-1 underline-offset-6">
            {capital(verdict.lasts)}
          </FigureButton>
        )}
      </h2>
      {verdict.hours !== null && evaluation.quick ? (
        <p className="text-soft text-sm">likely …</p>
      ) : null}
      {band.p10 !== null && band.p10 !== verdict.hours ? (
        <p className="text-sm" data-part="band">
          likely {hours(band.p10)} to{" "}
          {band.p90 === null ? `more than ${hours(verdict.horizon_hours)}` : hours(band.p90)}
          <span className="text-soft"> · simple sum </span>
          <FigureButton of="run.quick_hours" />
        </p>
      ) : null}
      {verdict.first ? (
        <p className="mt-1 text-sm" data-part="first">
          <strong>First:</strong> {verdict.first}
        </p>
      ) : null}
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
      {verdict.never.length ? (
        <p className="mt-1 rounded border border-fix px-2 py-1 text-sm" data-part="never">
          <strong>Does not run:</strong> {verdict.never.join("; ")}.
        </p>
      ) : null}
      {verdict.not_together.length ? (
        <p className="mt-1 rounded border border-fix px-2 py-1 text-sm" data-part="not-together">
          <strong>Not together:</strong> {verdict.not_together.join("; ")}. They would trip what
          feeds them, so the hours count them one after the other.
        </p>
      ) : null}
      <div className="mx-auto mt-2 max-w-80">
        <JarPicture jar={jar} order={order} />
      </div>
      <p className="mt-1 mb-3 flex flex-wrap justify-center gap-x-4 text-sm">
        <span>
          a day <FigureButton of="day.wh" className="font-semibold" />
        </span>
        <span>
          usable <FigureButton of={usableOf(evaluation)} className="font-semibold" />
        </span>
        <span>
          reaches the loads <FigureButton of="day.path_efficiency" digits={2} />
        </span>
      </p>
      <WhatHappens run={run} startsAt={startsAt} />
      <Findings />
      <div className="mt-4">
        <Cautions />
      </div>
    </>
  );
});

/** The working of what is usable: of one store alone its own, else that of their sum. */
function usableOf(evaluation: Evaluation): string {
  const [store, ...others] = evaluation.run.stores;
  return store && !others.length ? `store.${store.id}.usable` : "run.usable";
}
