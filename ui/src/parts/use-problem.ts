import { useContext } from "react";
import { WorkedContext } from "../design/use-evaluation";

/** What the server says of the value at a JSON Pointer, or undefined if all is well. */
export function useProblem(path: string): string | undefined {
  const problems = useContext(WorkedContext)?.problems ?? [];
  return problems.find((problem) => problem.path === path)?.message;
}
