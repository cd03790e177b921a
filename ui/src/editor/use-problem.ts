import { useContext } from "react";
import { ProblemsContext } from "../design/use-evaluation";

/** What the server says of the value at a JSON Pointer, or undefined if all is well. */
export function useProblem(path: string): string | undefined {
  return useContext(ProblemsContext).find((problem) => problem.path === path)?.message;
}
