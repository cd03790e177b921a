import { applyPatch } from "fast-json-patch";
import { create } from "zustand";
import type { Design, Edit, Stored } from "../api/types";
import { useNotice } from "../lib/notice";
import type { Draft, Step, Steps } from "./drafts";
import { type Stamp, sameStamp } from "./stamp";

/**
 * Where saving stands. `invalid`: the server refused a value; nothing is saved until it is right.
 * `gone`: the design was deleted elsewhere.
 */
export type Saving =
  | { status: "saved"; at: Date }
  | { status: "waiting" }
  | { status: "running" }
  | { status: "invalid"; version: number }
  | { status: "failed"; reason: string }
  | { status: "gone" }
  | { status: "conflict"; theirs: Stored };

/** A design as the server has it, with what this browser kept of an earlier visit. */
export interface Opened {
  id: string;
  /** Null: it was deleted elsewhere, and only the draft is left. */
  stored: Stored | null;
  draft: Draft | null;
  steps: Steps | null;
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
  open: (opened: Opened) => void;
  /** Replace the document by what the server has. */
  openStored: (stored: Stored) => void;
  /** Change the document; changes with the same key in quick succession undo as one. */
  change: (what: string, make: (document: Design) => Design, key?: string) => void;
  /** End a run of changes to one field: the next one undoes on its own. */
  seal: () => void;
  /**
   * Make edits that the server worked out; false, with a notice, if they were made for another
   * version of the design or do not fit it.
   */
  apply: (what: string, edits: readonly Edit[], stamp: Stamp) => boolean;
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

  open: ({ id, stored, draft, steps }) =>
    set((state) => {
      const version = state.version + 1;
      const base = draft?.base ?? stored?.revision ?? 0;
      const kept = steps?.base === base ? steps : null;
      const document = draft?.document ?? stored?.document ?? null;
      return {
        id,
        base,
        document,
        version,
        savedVersion: draft ? version - 1 : version,
        past: kept?.past ?? (draft && stored ? [lastVisit(stored)] : []),
        future: kept?.future ?? [],
        saving: savingOf(stored, draft),
      };
    }),

  openStored: (stored) => get().open({ id: stored.id, stored, draft: null, steps: null }),

  change: (what, make, key = "") =>
    set((state) => {
      if (!state.document) return state;
      const document = make(state.document);
      if (document === state.document) return state;
      // An "Undo" in a notice names one change: after another it would undo that one.
      useNotice.getState().close();
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

  apply: (what, edits, stamp) => {
    const { id, version, document, change } = get();
    const { notify } = useNotice.getState();
    if (!document || !sameStamp(stamp, { design: id, version })) {
      notify("The design changed after this was worked out, so nothing was applied. Try again.");
      return false;
    }
    const changed = patched(document, edits);
    if (!changed) {
      notify("This change does not fit the design as it is now, so nothing was applied.");
      return false;
    }
    change(what, () => changed);
    return true;
  },

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

/** A document with edits made; null if one does not apply, or a test of theirs fails. */
export function patched(document: Design, edits: readonly Edit[]): Design | null {
  try {
    const copy = structuredClone(document);
    return applyPatch(copy, structuredClone(edits) as never, true).newDocument;
  } catch {
    return null;
  }
}

/** The way back from a draft to what was saved. */
const lastVisit = (stored: Stored): Step => ({
  document: stored.document,
  what: "changes of your last visit",
  at: 0,
  key: "",
});

function savingOf(stored: Stored | null, draft: Draft | null): Saving {
  if (!stored) return { status: "gone" };
  if (draft && draft.base !== stored.revision) return { status: "conflict", theirs: stored };
  return draft ? { status: "waiting" } : { status: "saved", at: new Date(stored.saved_at) };
}

/** What is on screen now: what an answer has to be made for to be used. */
export const stampNow = (): Stamp => {
  const { id, version } = useDesign.getState();
  return { design: id, version };
};

function travel(state: DesignState, from: Step[], to: Step[], way: "undo" | "redo") {
  const step = from.at(-1);
  if (!step || !state.document) return state;
  useNotice.getState().close();
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
