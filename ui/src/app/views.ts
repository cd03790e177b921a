/** The views of a design, in the order of the work. */
export type View = "plan" | "run" | "cables" | "options";
