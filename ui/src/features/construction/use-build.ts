import { api } from "../../api/client";
import type { Ask, Built, Place } from "../../api/types";
import { usePlan } from "../../design/selection";
import type { Stamp } from "../../design/stamp";
import { stampNow, useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { useNotice } from "../../lib/notice";

/** What would be built, and for which version of the design. */
export interface BuildPlan extends Built {
  stamp: Stamp;
}

interface Proposed {
  /** The answer to what is asked now: only this can be confirmed. */
  built: BuildPlan | null;
  /** The same, or the one before while it is worked out. */
  shown: Built | null;
  refused: string | null;
}

/** What an ask would do, worked out while it is being put together. */
export function useBuilt(ask: Ask | null): Proposed {
  const { data, stamp, standing, error } = useAnswer(
    "build",
    (design, signal) => api.build(design, ask as Ask, signal),
    { key: [ask], enabled: ask !== null },
  );
  const shown = error || ask === null ? null : data;
  const fresh = shown && stamp && standing.status === "fresh";
  return {
    built: fresh ? { ...shown, stamp } : null,
    shown,
    refused: error?.message ?? null,
  };
}

/** Rails that could take some loads, the best first. */
export function usePlaces(loads: readonly string[]): Place[] {
  const { data, standing } = useAnswer(
    "places",
    (design, signal) => api.places(design, [...loads], signal),
    { key: [loads], enabled: loads.length > 0 },
  );
  return standing.status === "fresh" && data ? data : [];
}

/** Takes what was built: one step of undo, and a notice that says where each load went. */
export function useTake(): (built: BuildPlan) => void {
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const { select, ask, choose } = usePlan();
  return (built) => {
    if (!apply(built.label, built.edits, built.stamp)) return;
    if (built.subject) select(built.subject);
    choose([]);
    ask(null);
    const first = built.says[0] ?? "";
    const more = built.says.length > 1 ? ` And ${built.says.length - 1} more.` : "";
    const done = built.label.charAt(0).toUpperCase() + built.label.slice(1);
    notify(`${done}. ${first}${more}`.trim(), { label: "Undo", act: undo });
  };
}

/** Builds and takes at once, for keys and menus that need no dialog. */
export function useBuildNow(): (ask: Ask) => Promise<void> {
  const take = useTake();
  const notify = useNotice((state) => state.notify);
  return async (ask) => {
    const design = useDesign.getState().document;
    if (!design) return;
    try {
      const stamp = stampNow();
      take({ ...(await api.build(design, ask)), stamp });
    } catch (error) {
      notify((error as Error).message);
    }
  };
}
