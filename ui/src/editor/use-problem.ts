import { useContext, useEffect } from "react";
import { keepField, problemInWords, type Says } from "../design/place-words";
import { ProblemsContext } from "../design/use-evaluation";

/**
 * What the server says of the value at a JSON Pointer, or undefined if all is well.
 *
 * `label` is what the field of it is called, `says` how it shows a value where that is no plain
 * number.
 */
export function useProblem(path: string, label?: string, says?: Says): string | undefined {
  useEffect(() => (label ? keepField(path, label, says) : undefined), [path, label, says]);
  const problem = useContext(ProblemsContext).find((one) => one.path === path);
  return problem && problemInWords(problem);
}
