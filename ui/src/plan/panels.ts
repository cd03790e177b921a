import type { Design } from "../api/types";

/** What can be opened below the drawing, in the order of the work, with the key that opens it. */
export const PANELS = [
  ["loads", "What has to run", "1"],
  ["bank", "Bank", "2"],
  ["stages", "Inverters, converters", "3"],
  ["needed", "Needed", "4"],
  ["assumptions", "Assumptions", "5"],
] as const;

export type PanelName = (typeof PANELS)[number][0];

/** The panel that edits a thing. */
export function panelOf(design: Design, id: string): PanelName {
  if (design.stores.some((store) => store.id === id)) return "bank";
  return design.stages.some((stage) => stage.id === id) ? "stages" : "loads";
}
