import { createContext, useContext, useEffect, useState } from "react";
import { api, Refused } from "../api/client";
import type { Evaluation, Figure, ProblemPlace, Reference } from "../api/types";
import type { Stamp } from "./stamp";
import { useDesign } from "./store";
import { type Standing, useAnswer } from "./use-answer";

/** What every part of the screen reads: the newest evaluation that worked, and what it is of. */
export interface Worked {
  evaluation: Evaluation;
  stamp: Stamp;
  reference: Reference;
  /** The workings of its figures where they are here; elsewhere they are asked for. */
  workings?: Record<string, Figure>;
}

export const WorkedContext = createContext<Worked | null>(null);

/** Values the server refused, by place; the evaluation is then from before. Apart from it, so
 * that fields need not be drawn anew at each evaluation. */
export const ProblemsContext = createContext<readonly ProblemPlace[]>([]);

/** Whether the figures on screen are of the design on screen. */
export const StandingContext = createContext<Standing>({ status: "fresh" });

export function useWorked(): Worked {
  const worked = useContext(WorkedContext);
  if (!worked) throw new Error("used outside of a design");
  return worked;
}

interface Evaluated {
  evaluation: Evaluation | null;
  stamp: Stamp | null;
  standing: Standing;
  /** Values that the server refuses. */
  problems: readonly ProblemPlace[];
  /** Why there is no evaluation at all, and none will come by itself. */
  error: Error | null;
  retry: () => void;
}

const NONE: readonly ProblemPlace[] = [];

/**
 * The newest evaluation that worked, asked anew at each change, and how it stands to the design.
 *
 * First what an edit changes, at once; then, once no more is typed, what takes many runs: the
 * band, and what each fix would do.
 */
export function useEvaluation(): Evaluated {
  const version = useDesign((state) => state.version);
  const quick = useAnswer("evaluation", (design, signal) => api.evaluate(design, true, signal));
  const settled = useSettled(version) && quick.standing.status === "fresh";
  const full = useAnswer(
    "whole evaluation",
    (design, signal) => api.evaluate(design, false, signal),
    { enabled: settled, givenUp: true },
  );
  const whole = full.data && full.standing.status === "fresh" ? full : null;
  const refusal = quick.error instanceof Refused ? quick.error.problem : null;
  // Before the quick one is there, the whole one of the version before stays as it was.
  const newer = (quick.stamp?.version ?? 0) > (full.stamp?.version ?? 0);
  const shown = whole ?? (newer ? quick : full);
  return {
    evaluation: shown.data,
    stamp: shown.stamp,
    standing: standingOf(quick.standing, full.standing),
    problems: refusal?.errors ?? NONE,
    error: quick.error,
    retry: quick.retry,
  };
}

function standingOf(quick: Standing, full: Standing): Standing {
  if (quick.status !== "fresh") return quick;
  if (full.status !== "stale") return full;
  return {
    status: "stale",
    why: `The likely range and the effects of fixes are missing: ${full.why}`,
  };
}

const PAUSE_MS = 250;

/** Whether a value has stayed for a moment. */
function useSettled(value: number): boolean {
  const [settled, setSettled] = useState<number | null>(null);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), PAUSE_MS);
    return () => clearTimeout(timer);
  }, [value]);
  return settled === value;
}
