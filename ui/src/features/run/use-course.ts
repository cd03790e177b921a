import { createContext, useContext } from "react";
import { api } from "../../api/client";
import type { Course } from "../../api/types";
import { useAnswer } from "../../design/use-answer";

/** A run in full, up to some hours or to its end. */
export const useCourseOf = (until: number | null) =>
  useAnswer("course", (design, signal) => api.course(design, until, signal), { key: [until] });

/** What every part of the Run view reads. */
export interface Shown {
  course: Course;
  /** The rail whose volts are drawn, and its store. */
  rail: string;
  store: string;
  names: ReadonlyMap<string, string>;
  /** Place of each load in the design: its stone colour. */
  stones: ReadonlyMap<string, number>;
  reserve: number;
  /** Volts of a log over the hours of the run, of one rail. */
  overlay: { rail: string; hours: readonly number[]; volts: readonly (number | null)[] } | null;
  /** Sources of the design, in its order, with the colour of each. */
  sources: readonly { id: string; name: string; colour: string }[];
}

export const ShownContext = createContext<Shown | null>(null);

export function useShown(): Shown {
  const shown = useContext(ShownContext);
  if (!shown) throw new Error("used outside of the run");
  return shown;
}
