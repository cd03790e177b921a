import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import { api, Refused } from "../api/client";
import type { Evaluation, ProblemPlace, Reference } from "../api/types";
import { useDesign } from "./store";

/** What every part of the screen reads: the newest evaluation that worked, and what is wrong. */
export interface Worked {
  evaluation: Evaluation;
  reference: Reference;
  /** Values the server refused, by place; the evaluation is then from before. */
  problems: readonly ProblemPlace[];
}

export const WorkedContext = createContext<Worked | null>(null);

export function useWorked(): Worked {
  const worked = useContext(WorkedContext);
  if (!worked) throw new Error("used outside of a design");
  return worked;
}

/** The evaluation of the open design, asked anew at each change. */
export function useEvaluation() {
  const id = useDesign((state) => state.id);
  const version = useDesign((state) => state.version);
  return useQuery({
    queryKey: ["evaluation", id, version],
    queryFn: ({ signal }) => {
      const document = useDesign.getState().document;
      if (!document) throw new Error("no design is open");
      return api.evaluate(document, signal);
    },
    enabled: id !== "",
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
    retry: (count, error) => !(error instanceof Refused) && count < 30,
    retryDelay: 1000,
  });
}
