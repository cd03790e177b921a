/** Colours of what fills a store: the same in the week, the run and the jar's spouts. */
export const SOURCE_COLOURS = {
  sun: "var(--sun)",
  vehicle: "var(--engine)",
  mains: "var(--socket)",
  generator: "var(--plus)",
  store: "var(--glass)",
} as const;

/** The colour of a kind of store, where it is a source. */
export const sourceColour = (kind: string): string | null =>
  kind === "sun" || kind === "vehicle" || kind === "mains" || kind === "generator"
    ? SOURCE_COLOURS[kind]
    : null;
