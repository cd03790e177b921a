import { useEffect } from "react";
import { api, Conflict, Refused } from "../api/client";
import type { Stored } from "../api/types";
import { useNotice } from "../lib/notice";
import { useDesign } from "./store";

const PAUSE_MS = 400;
const RETRY_MS = 3000;

/** The save on its way, if there is one: a later one has to build on what it gives back. */
let underway: Promise<Stored | null> | null = null;

async function save(): Promise<void> {
  const { id, base, document, version, savedVersion, saving } = useDesign.getState();
  if (!document || version === savedVersion) return;
  if (saving.status === "running" || saving.status === "conflict") return;
  useDesign.getState().setSaving({ status: "running" });
  const call = api.save(id, base, document);
  underway = call.catch(() => null);
  try {
    const stored = await call;
    if (useDesign.getState().id === id) useDesign.getState().saved(stored, version);
  } catch (error) {
    if (useDesign.getState().id !== id) return;
    const { setSaving } = useDesign.getState();
    if (error instanceof Conflict) setSaving({ status: "conflict", theirs: error.current });
    else if (error instanceof Refused && error.problem.status === 422) {
      setSaving({ status: "invalid", version });
    } else setSaving({ status: "failed", reason: (error as Error).message });
  }
}

/** Save what is left when the design is left, after a save that is still on its way. */
async function saveOnLeaving(): Promise<void> {
  const { id, base, document, version, savedVersion, saving } = useDesign.getState();
  if (!document || version === savedVersion || saving.status === "conflict") return;
  const before = saving.status === "running" ? await underway : null;
  try {
    await api.save(id, before?.revision ?? base, document, true);
  } catch (error) {
    useNotice.getState().notify(`The last change was not saved: ${(error as Error).message}`);
  }
}

/** Saves after each change, tries again while the server is away, saves at once on leaving. */
export function useAutosave(): void {
  const version = useDesign((state) => state.version);
  const savedVersion = useDesign((state) => state.savedVersion);
  const saving = useDesign((state) => state.saving);
  const { status } = saving;
  const refused = saving.status === "invalid" ? saving.version : -1;

  useEffect(() => {
    if (version === savedVersion || version === refused) return;
    const wait = status === "failed" ? RETRY_MS : PAUSE_MS;
    if (status === "running" || status === "conflict") return;
    const timer = setTimeout(() => void save(), wait);
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
