import { applyPatch } from "fast-json-patch";
import { create } from "zustand";
import type { Design, Edit, Stored } from "../api/types";

/** Where saving stands. `invalid`: the server refused a value; nothing is saved until it is right. */
export type Saving =
  | { status: "saved"; at: Date }
  | { status: "waiting" }
  | { status: "running" }
  | { status: "invalid"; version: number }
  | { status: "failed"; reason: string }
  | { status: "conflict"; theirs: Stored };

interface Step {
  document: Design;
  what: string;
  at: number;
  key: string;
}

interface DesignState {
  id: string;
  base: number;
  document: Design | null;
  /** Counts up with each change, so that a change is told without comparing documents. */
  version: number;
  savedVersion: number;
  past: Step[];
  future: Step[];
  saving: Saving;
  open: (stored: Stored) => void;
  /** Change the document; changes with the same key in quick succession undo as one. */
  change: (what: string, make: (document: Design) => Design, key?: string) => void;
  /** End a run of changes to one field: the next one undoes on its own. */
  seal: () => void;
  apply: (what: string, edits: readonly Edit[]) => void;
  undo: () => void;
  redo: () => void;
  setSaving: (saving: Saving) => void;
  saved: (stored: Stored, version: number) => void;
  /** After a conflict: go on from their revision with this document. */
  rebase: (base: number) => void;
}

const MAX_STEPS = 200;
const SAME_EDIT_MS = 1500;

export const useDesign = create<DesignState>((set, get) => ({
  id: "",
  base: 0,
  document: null,
  version: 0,
  savedVersion: 0,
  past: [],
  future: [],
  saving: { status: "saved", at: new Date() },

  open: (stored) =>
    set((state) => ({
      id: stored.id,
      base: stored.revision,
      document: stored.document,
      version: state.version + 1,
      savedVersion: state.version + 1,
      past: [],
      future: [],
      saving: { status: "saved", at: new Date(stored.saved_at) },
    })),

  change: (what, make, key = "") =>
    set((state) => {
      if (!state.document) return state;
      const document = make(state.document);
      if (document === state.document) return state;
      const last = state.past.at(-1);
      const now = Date.now();
      const same = key !== "" && last?.key === key && now - last.at < SAME_EDIT_MS;
      const step = { document: state.document, what, at: now, key };
      const past = same
        ? [...state.past.slice(0, -1), { ...last, at: now }]
        : [...state.past, step].slice(-MAX_STEPS);
      return { document, past, future: [], version: state.version + 1 };
    }),

  seal: () =>
    set((state) => {
      const last = state.past.at(-1);
      return last?.key ? { past: [...state.past.slice(0, -1), { ...last, key: "" }] } : state;
    }),

  apply: (what, edits) =>
    get().change(what, (document) => {
      const copy = structuredClone(document);
      return applyPatch(copy, structuredClone(edits) as never, true).newDocument;
    }),

  undo: () => set((state) => travel(state, state.past, state.future, "undo")),
  redo: () => set((state) => travel(state, state.future, state.past, "redo")),

  setSaving: (saving) => set({ saving }),
  saved: (stored, version) =>
    set({
      base: stored.revision,
      savedVersion: version,
      saving: { status: "saved", at: new Date(stored.saved_at) },
    }),
  rebase: (base) =>
    set((state) => ({ base, version: state.version + 1, saving: { status: "waiting" } })),
}));

function travel(state: DesignState, from: Step[], to: Step[], way: "undo" | "redo") {
  const step = from.at(-1);
  if (!step || !state.document) return state;
  const back = { ...step, document: state.document, key: "" };
  const rest = from.slice(0, -1);
  return {
    document: step.document,
    version: state.version + 1,
    past: way === "undo" ? rest : [...to, back],
    future: way === "undo" ? [...to, back] : rest,
  };
}

export type { DesignState };
