import { create } from "zustand";
import type { Edit } from "../api/types";
import type { PanelName } from "./panels";
import type { Stamp } from "./stamp";

/** Edits looked at before they are taken. */
export interface Preview {
  label: string;
  edits: readonly Edit[];
  /** What they were worked out for. */
  stamp: Stamp;
  /** What it does, in words, where no finding says it. */
  says?: string;
}

/** What a person was asked, and what for. */
export type Asking =
  | { what: "add"; on: string }
  | { what: "store" }
  | { what: "lead"; to: string }
  | { what: "move"; loads: readonly string[] }
  | { what: "remove"; stage: string }
  | { what: "part"; subject: string };

interface PlanState {
  panel: PanelName;
  /** The thing selected in the drawing, by its id. */
  selected: string | null;
  /** The load whose details are open. */
  opened: string | null;
  /** Loads chosen in the table, to be moved or removed together. */
  chosen: readonly string[];
  preview: Preview | null;
  asking: Asking | null;
  /** What the drawing shows: when most runs, a moment by its hour, or the worst of each thing. */
  drawnAt: "most" | "worst" | number;
  show: (panel: PanelName) => void;
  select: (id: string | null) => void;
  openLoad: (id: string | null) => void;
  choose: (chosen: readonly string[]) => void;
  setPreview: (preview: Preview | null) => void;
  ask: (asking: Asking | null) => void;
  drawAt: (at: "most" | "worst" | number) => void;
  reset: () => void;
}

const FRESH = {
  panel: "loads" as PanelName,
  selected: null,
  opened: null,
  chosen: [],
  preview: null,
  asking: null,
  drawnAt: "most" as const,
};

/** How the Plan is looked at: nothing of it belongs to the design. */
export const usePlan = create<PlanState>((set) => ({
  ...FRESH,
  show: (panel) => set({ panel }),
  select: (selected) => set({ selected }),
  openLoad: (opened) => set({ opened }),
  choose: (chosen) => set({ chosen }),
  setPreview: (preview) => set({ preview }),
  ask: (asking) => set({ asking }),
  drawAt: (drawnAt) => set({ drawnAt }),
  reset: () => set(FRESH),
}));
