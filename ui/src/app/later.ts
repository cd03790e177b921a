/** The other views of a design, and what saving may ask: fetched at once when a design is open. */
export { default as BenchView } from "../features/bench/BenchView";
export { default as CablesView } from "../features/cables/CablesView";
export { default as OptionsView } from "../features/options/OptionsView";
export { default as RefillView } from "../features/refill/RefillView";
export { default as RunView } from "../features/run/RunView";
export { default as SheetView } from "../features/sheet/SheetView";
export { default as ConflictDialog } from "./ConflictDialog";
export { default as GoneDialog } from "./GoneDialog";
