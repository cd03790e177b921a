/** The stone colour of a load: the same in the jar, the table and the drawing. */
export const stoneOf = (index: number): string => `var(--stone-${index % 8})`;
