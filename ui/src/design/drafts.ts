/**
 * What the server does not have yet, kept in this browser: a draft for each design and window, and
 * the steps of undo. Both survive a reload, a closed window and a server that is away.
 */

import { createStore, delMany, entries, get, set, type UseStore } from "idb-keyval";
import type { Design } from "../api/types";

export interface Draft {
  design: string;
  /** The revision it was made from. */
  base: number;
  document: Design;
  at: number;
}

/** A change that was made, with the document on its other side. */
export interface Step {
  document: Design;
  what: string;
  at: number;
  key: string;
}

export interface Steps {
  /** The revision they lead to: of another one they are not the history. */
  base: number;
  past: Step[];
  future: Step[];
}

const MAX_KEPT_STEPS = 60;
const TAB_KEY = "gravel-jar-window";

let opened: { drafts: UseStore; steps: UseStore } | null = null;
const stores = () => {
  opened ??= {
    drafts: createStore("gravel-jar-drafts", "draft"),
    steps: createStore("gravel-jar-steps", "steps"),
  };
  return opened;
};

let tab = "";

/** This window's own name; a duplicated window gets a new one, told by a lock that is held. */
async function ownTab(): Promise<string> {
  if (tab) return tab;
  const kept = sessionStorage.getItem(TAB_KEY) ?? crypto.randomUUID();
  tab = (await held(kept)) ? kept : crypto.randomUUID();
  if (tab !== kept) void held(tab);
  sessionStorage.setItem(TAB_KEY, tab);
  return tab;
}

/** A window that is reloaded lets go of its lock a moment after the new one begins. [ms] */
const RELOAD_MS = 400;

/** Hold the lock of a window's name as long as it lives; false if another window holds it. */
const held = (name: string): Promise<boolean> =>
  new Promise((resolve) => {
    if (!navigator.locks) return resolve(true);
    const signal = AbortSignal.timeout(RELOAD_MS);
    navigator.locks
      .request(`${TAB_KEY} ${name}`, { signal }, () => {
        resolve(true);
        return new Promise(() => undefined);
      })
      .catch(() => resolve(false));
  });

async function openTabs(): Promise<Set<string>> {
  const locks = (await navigator.locks?.query())?.held ?? [];
  return new Set(locks.map((lock) => lock.name?.replace(`${TAB_KEY} `, "") ?? ""));
}

/** Keep what is not saved yet. */
export async function keepDraft(draft: Draft): Promise<void> {
  await set(`${draft.design} ${await ownTab()}`, draft, stores().drafts);
}

/** The server has it: this window's draft of a design goes. */
export async function dropDraft(design: string): Promise<void> {
  await delMany([`${design} ${await ownTab()}`], stores().drafts);
}

/**
 * The draft of a design from an earlier visit: this window's own, else the newest of a window that
 * was closed, which becomes this window's. Those of windows that are open stay theirs.
 */
export async function findDraft(design: string): Promise<Draft | null> {
  const own = await ownTab();
  const open = await openTabs();
  const found = (await entries<string, Draft>(stores().drafts))
    .map(([key, draft]) => ({ key, draft, tab: key.slice(design.length + 1) }))
    .filter((one) => one.key.startsWith(`${design} `))
    .filter((one) => one.tab === own || !open.has(one.tab))
    .sort((a, b) => Number(b.tab === own) - Number(a.tab === own) || b.draft.at - a.draft.at);
  const newest = found[0];
  if (!newest) return null;
  if (newest.tab !== own) {
    await keepDraft(newest.draft);
    await delMany([newest.key], stores().drafts);
  }
  return newest.draft;
}

/** Keep the steps of undo. */
export async function keepSteps(design: string, steps: Steps): Promise<void> {
  const { base, past, future } = steps;
  const kept = {
    base,
    past: past.slice(-MAX_KEPT_STEPS),
    future: future.slice(-MAX_KEPT_STEPS),
  };
  await set(design, kept, stores().steps);
}

/** The steps of undo that were kept of a design, by whichever window changed it last. */
export const findSteps = async (design: string): Promise<Steps | null> =>
  (await get<Steps>(design, stores().steps)) ?? null;
