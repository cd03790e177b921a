/** What can be opened below the drawing, in the order of the work, with the key that opens it. */
export const PANELS = [
  ["loads", "What has to run", "1"],
  ["bank", "Bank", "2"],
  ["inverter", "Inverter, converters", "3"],
  ["needed", "Needed", "4"],
  ["assumptions", "Assumptions", "5"],
] as const;

export type PanelName = (typeof PANELS)[number][0];
