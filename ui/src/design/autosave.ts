/** Saving by itself: after each change, again while the server is away, and on leaving. */

import { useEffect } from "react";
import { api, Conflict, Refused } from "../api/client";
import type { Stored } from "../api/types";
import { useNotice } from "../lib/notice";
import { dropDraft, keepDraft, keepSteps } from "./drafts";
import { type Saving, useDesign } from "./store";
import { isPassing } from "./use-answer";

const PAUSE_MS = 400;
const RETRY_MS = 2000;

/** Saves on their way, by design: a later one has to build on what they give back. */
const underway = new Map<string, Promise<Stored | null>>();

/** Waits until no save of a design is on its way: what the server has is then the newest. */
export async function savesDone(id: string): Promise<void> {
  for (let one = underway.get(id); one; one = underway.get(id)) await one;
}

/** The save of one design, known by its id until it is done. */
function sent(id: string, call: Promise<Stored>): Promise<Stored> {
  const done = call
    .catch(() => null)
    .finally(() => {
      if (underway.get(id) === done) underway.delete(id);
    });
  underway.set(id, done);
  return call;
}

/** What a failed save means. */
function savingAfter(error: Error, version: number): Saving {
  if (error instanceof Conflict) return { status: "conflict", theirs: error.current };
  if (error instanceof Refused && error.problem.status === 404) return { status: "gone" };
  if (!isPassing(error)) return { status: "invalid", version };
  return { status: "failed", reason: error.message };
}

/** States in which a person has to choose first. */
const waitsForChoice = (saving: Saving) => saving.status === "conflict" || saving.status === "gone";

async function save(): Promise<void> {
  const { id, base, document, version, savedVersion, saving, setSaving } = useDesign.getState();
  if (!document || version === savedVersion) return;
  if (saving.status === "running" || waitsForChoice(saving)) return;
  setSaving({ status: "running" });
  const toServer = async () => {
    const stored = await api.save(id, base, document);
    const now = useDesign.getState();
    if (now.id === id) {
      now.saved(stored, version);
      if (now.version === version) await dropDraft(id).catch(notKept);
    }
    return stored;
  };
  try {
    await sent(id, toServer());
  } catch (error) {
    if (useDesign.getState().id === id) setSaving(savingAfter(error as Error, version));
  }
}

/** Save what is left when the design is left, after a save that is still on its way. */
async function saveOnLeaving(): Promise<void> {
  const { id, base, document, version, savedVersion, saving, past, future } = useDesign.getState();
  if (!document || version === savedVersion || waitsForChoice(saving)) return;
  const before = underway.get(id);
  const leaving = async () => {
    const stored = before ? await before : null;
    const last = await api.save(id, stored?.revision ?? base, document);
    // It is saved, whatever becomes of the local copy.
    await dropDraft(id).catch(notKept);
    await keepSteps(id, { base: last.revision, past, future }).catch(notKept);
    return last;
  };
  try {
    await sent(id, leaving());
  } catch (error) {
    const why = (error as Error).message;
    useNotice.getState().notify(`Not saved yet: ${why} It is kept in this browser.`);
  }
}

let warned = false;

/** A browser that keeps nothing is told of once. */
function notKept(): void {
  if (warned) return;
  warned = true;
  useNotice
    .getState()
    .notify("This browser keeps no local copy of unsaved changes. Leave only when it says saved.");
}

/**
 * Keep what is not saved yet, and the steps of undo, in this browser: both at once, so that a
 * reload never finds a draft without the steps that led to it. The documents of the steps share
 * what did not change between them, so that writing all of them costs little.
 */
function useLocalCopy(): void {
  useEffect(
    () =>
      useDesign.subscribe((state, before) => {
        const { id, base, document, version, savedVersion, past, future } = state;
        if (!document || id !== before.id) return;
        if (version !== savedVersion && document !== before.document) {
          keepDraft({ design: id, base, document, at: Date.now() }).catch(notKept);
        }
        if (past !== before.past || future !== before.future || base !== before.base) {
          keepSteps(id, { base, past, future }).catch(notKept);
        }
      }),
    [],
  );
}

/** Saves after each change, tries again while the server is away, saves at once on leaving. */
export function useAutosave(): void {
  const version = useDesign((state) => state.version);
  const savedVersion = useDesign((state) => state.savedVersion);
  const saving = useDesign((state) => state.saving);
  const { status } = saving;
  const refused = saving.status === "invalid" ? saving.version : -1;
  useLocalCopy();

  useEffect(() => {
    if (version === savedVersion || version === refused) return;
    if (status === "running" || status === "conflict" || status === "gone") return;
    const timer = setTimeout(() => void save(), status === "failed" ? RETRY_MS : PAUSE_MS);
    return () => clearTimeout(timer);
  }, [version, savedVersion, status, refused]);

  useEffect(() => {
    const hide = () => {
      if (document.visibilityState === "hidden") void save();
    };
    const warn = (event: BeforeUnloadEvent) => {
      const state = useDesign.getState();
      if (state.version !== state.savedVersion) event.preventDefault();
    };
    document.addEventListener("visibilitychange", hide);
    window.addEventListener("beforeunload", warn);
    return () => {
      document.removeEventListener("visibilitychange", hide);
      window.removeEventListener("beforeunload", warn);
      void saveOnLeaving();
    };
  }, []);
}
