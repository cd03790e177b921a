import type { Design } from "../api/types";
import { outletsOf } from "./edits";

/** What can be opened below the drawing, in the order of the work, with the key that opens it. */
export const PANELS = [
  ["loads", "What has to run", "1"],
  ["bank", "Stores", "2"],
  ["stages", "Inverters, converters", "3"],
  ["needed", "Needed", "4"],
  ["assumptions", "Assumptions", "5"],
  ["leads", "Links", "6"],
  ["routes", "Routes", "7"],
] as const;

export type PanelName = (typeof PANELS)[number][0];

/** The panels of a design: leads and routes where there is something that grows. */
export const panelsOf = (design: Design | null) =>
  PANELS.filter(
    ([name]) =>
      (name !== "leads" && name !== "routes") ||
      design?.links.length ||
      design?.stores.some((store) => store.kind !== "bank"),
  );

/** The panel that edits a thing. */
export function panelOf(design: Design, id: string): PanelName {
  if (design.links.some((link) => link.id === id)) return "leads";
  if (outletsOf(design).some(({ outlet }) => outlet.id === id)) return "bank";
  if (design.stores.some((store) => store.id === id)) return "bank";
  return design.stages.some((stage) => stage.id === id) ? "stages" : "loads";
}
