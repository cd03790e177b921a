const UNIT = /_(c|h|min|w|va|v|a|wh|ah|hz|m|mm2|mohm|share)$/;

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
  const which = (steps.at(-1) ?? "").replace(UNIT, "").replaceAll("_", " ");
  return `${whose || (steps.length > 1 ? steps[0] : "the design")}: ${which}`;
}
