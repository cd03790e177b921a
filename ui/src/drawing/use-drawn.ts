import { createContext, useContext } from "react";
import type { Design, Evaluation, Judgement, Moment } from "../api/types";

/** What is drawn: a design with its evaluation, at one moment or at its worst. */
export interface Drawn {
  design: Design;
  evaluation: Evaluation;
  /** The moment shown; null: the worst volts and amps of each thing by itself. */
  moment: Moment | null;
  selected: string | null;
  /** The thing that Tab leads to. */
  reached: string | null;
  /** What a preview would add or change. */
  changed: ReadonlySet<string>;
  /** Whether each wire says how long it is, one way. */
  lengths: boolean;
  onSelect: (id: string) => void;
  onOpen: (id: string) => void;
}

export const DrawnContext = createContext<Drawn | null>(null);

export function useDrawn(): Drawn {
  const drawn = useContext(DrawnContext);
  if (!drawn) throw new Error("used outside of a drawing");
  return drawn;
}

/** The gravest finding on a thing, cautions apart. */
export const worstOf = (findings: readonly Judgement[], subject: string): Judgement | undefined =>
  findings.find((f) => f.subject === subject && f.severity !== "note");

/** Amps of a line: into a stage, out of what makes a rail, into a load. [A] */
export function ampsOf(drawn: Drawn, of: string, side: "in" | "out" | "load"): number {
  const { moment, evaluation } = drawn;
  if (moment) {
    const by = side === "load" ? moment.takes : side === "in" ? moment.amps : moment.gives;
    return by[of] ?? 0;
  }
  const worst = evaluation.run.worst[of];
  return (side === "out" ? worst?.gives : worst?.amps) ?? 0;
}

/** Thicker with current, a little for each tenfold. [A] to px. */
export const thickness = (amps: number) => 1.2 + 1.7 * Math.log10(1 + amps);
