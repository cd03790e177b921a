/** What the plan opens, fetched at once when it is seen. In a file for each a page took longer. */
export { default as AddDialog } from "../construction/AddDialog";
export { default as LeadDialog } from "../construction/LeadDialog";
export { default as MoveDialog } from "../construction/MoveDialog";
export { default as RemoveDialog } from "../construction/RemoveDialog";
export { default as StoreDialog } from "../construction/StoreDialog";
export { default as PickPartDialog } from "../shelf/PickPartDialog";
export { default as AssumptionsPanel } from "./AssumptionsPanel";
export { default as LeadsPanel } from "./LeadsPanel";
export { default as LoadDetails } from "./LoadDetails";
export { default as NeededPanel } from "./NeededPanel";
export { default as RoutesPanel } from "./RoutesPanel";
export { default as StagesPanel } from "./StagesPanel";
export { default as StoresPanel } from "./StoresPanel";
