import { type ReactNode, useMemo } from "react";
import type { Evaluation } from "../api/types";
import type { Stamp } from "./stamp";
import { useWorked, WorkedContext } from "./use-evaluation";

interface WithFiguresProps {
  figures: Evaluation["figures"];
  stamp: Stamp;
  children: ReactNode;
}

/** What shows another answer beside the evaluation: with its figures, and taking edits of its design. */
export function WithFigures({ figures, stamp, children }: WithFiguresProps) {
  const worked = useWorked();
  const both = useMemo(() => {
    const all = { ...worked.evaluation.figures, ...figures };
    return { ...worked, evaluation: { ...worked.evaluation, figures: all }, stamp };
  }, [worked, figures, stamp]);
  return <WorkedContext value={both}>{children}</WorkedContext>;
}
