/** The views of a design, in the order of the work. */
export const VIEWS = [
  ["plan", "Plan"],
  ["run", "Run"],
  ["cables", "Cables"],
  ["refill", "Refill"],
  ["options", "Options"],
  ["bench", "Bench book"],
  ["sheet", "Sheet"],
] as const;

export type View = (typeof VIEWS)[number][0];
