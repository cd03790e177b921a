import { useQuery } from "@tanstack/react-query";
import { createContext, useContext, useEffect, useState } from "react";
import { api, Refused } from "../api/client";
import type { Evaluation, ProblemPlace, Reference } from "../api/types";
import { useDesign } from "./store";

/** What every part of the screen reads: the newest evaluation that worked. */
export interface Worked {
  evaluation: Evaluation;
  reference: Reference;
}

export const WorkedContext = createContext<Worked | null>(null);

/** Values the server refused, by place; the evaluation is then from before. Apart from it, so
 * that fields need not be drawn anew at each evaluation. */
export const ProblemsContext = createContext<readonly ProblemPlace[]>([]);

export function useWorked(): Worked {
  const worked = useContext(WorkedContext);
  if (!worked) throw new Error("used outside of a design");
  return worked;
}

/** The newest evaluation that worked, asked anew at each change, and what went wrong since. */
export function useEvaluation(): { evaluation: Evaluation | null; error: Error | null } {
  const id = useDesign((state) => state.id);
  const version = useDesign((state) => state.version);
  // Kept here: a refused value must not take the figures before it off the screen.
  const [last, setLast] = useState<Evaluation | null>(null);
  const ask = (quick: boolean) => ({
    queryKey: ["evaluation", id, version, quick],
    queryFn: ({ signal }: { signal: AbortSignal }) => {
      const document = useDesign.getState().document;
      if (!document) throw new Error("no design is open");
      return api.evaluate(document, quick, signal);
    },
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
    retry: (count: number, failure: Error) => !(failure instanceof Refused) && count < 1000,
    retryDelay: 1000,
  });
  // First what an edit changes, at once; then, once no more is typed, what takes many runs:
  // the band, and what each fix would do.
  const { data, error } = useQuery({ ...ask(true), enabled: id !== "" });
  const settled = useSettled(version) && data !== undefined;
  const { data: full } = useQuery({ ...ask(false), enabled: settled });
  const newest = full ?? data;
  useEffect(() => {
    if (newest) setLast(newest);
  }, [newest]);
  return { evaluation: newest ?? last, error };
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
