import { Refused } from "../api/client";
import type { ProblemPlace } from "../api/types";

/** Places of what a thing is joined to, or is: the message tells of the thing itself. */
const OF_ITSELF = new Set(["rail", "to", "input", "kind", "mode", "charger", "transfer"]);
const UNIT = /_(c|h|min|w|va|v|a|wh|ah|hz|m|mm2|mohm|share)$/;
/** Refusals whose numbers are values of the field: its limits, and what was given. */
const OF_LIMITS = new Set([
  "greater_than",
  "greater_than_equal",
  "less_than_equal",
  "out_of_range",
]);
const NUMBER = /-?\d+(\.\d+)?(e[+-]?\d+)?/g;

/** A field on screen: what it is called, and how it says a value of the document. */
interface Field {
  label: string;
  says?: Says;
}

export type Says = (value: number) => string;

/** Fields on screen, by where their values are. */
const SHOWN = new Map<string, Field>();

/**
 * Keep how the field of a place is called and says its values, so that it is told of in its own
 * words; gives what ends that, once it is on screen no more.
 */
export function keepField(path: string, label: string, says?: Says): () => void {
  const field = says ? { label, says } : { label };
  SHOWN.set(path, field);
  return () => {
    if (SHOWN.get(path) === field) SHOWN.delete(path);
  };
}

/** What is wrong with a value, its limits as its field says values: 90 %, not 0.9. */
export function problemInWords({ path, code, message }: ProblemPlace): string {
  const says = SHOWN.get(path)?.says;
  return says && OF_LIMITS.has(code)
    ? message.replace(NUMBER, (found) => says(Number(found)))
    : message;
}

/** Where a JSON Pointer leads in a document, in words: whose figure, and which. */
export function placeInWords(path: string, document: unknown): string {
  const steps = path.split("/").slice(1);
  let here: unknown = document;
  let whose = "";
  for (const step of steps) {
    here = (here as Record<string, unknown> | null | undefined)?.[step];
    const name = (here as { name?: unknown } | null | undefined)?.name;
    if (!whose && typeof name === "string") whose = name;
  }
  const called = SHOWN.get(path)?.label;
  if (called) return !whose || called.startsWith(whose) ? called : `${whose}: ${called}`;
  const last = steps.at(-1) ?? "";
  if (whose && (OF_ITSELF.has(last) || steps.length === 2)) return `${whose}:`;
  return `${whose || (steps.length > 1 ? steps[0] : "the design")}: ${inWords(steps)}`;
}

/** Why something was refused: a place of the document that is at fault by its name, not its path. */
export function reasonInWords(error: Error, document: unknown): string {
  const at = error instanceof Refused ? error.problem.errors?.[0] : undefined;
  const part = at?.path.split("/")[1] ?? "";
  return at && Object.keys(document ?? {}).includes(part)
    ? `${placeInWords(at.path, document)} ${problemInWords(at)}.`
    : error.message;
}

function inWords(steps: string[]): string {
  const last = steps.at(-1) ?? "";
  const [name, place] = /^\d+$/.test(last)
    ? [steps.at(-2) ?? "", `, no. ${Number(last) + 1}`]
    : [last, ""];
  return name.replace(UNIT, "").replaceAll("_", " ") + place;
}
