import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import type { Ask, Built, Place } from "../../api/types";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useNotice } from "../../lib/notice";

interface Answer {
  /** The answer to what is asked now: only this can be confirmed. */
  built: Built | null;
  /** The same, or the one before while it is worked out. */
  shown: Built | null;
  refused: string | null;
}

/** What an ask would do, worked out while it is being put together. */
export function useBuilt(ask: Ask | null): Answer {
  const version = useDesign((state) => state.version);
  const { data, error, isPlaceholderData } = useQuery({
    queryKey: ["build", version, ask],
    queryFn: ({ signal }) => {
      const design = useDesign.getState().document;
      if (!design || !ask) throw new Error("nothing is asked");
      return api.build(design, ask, signal);
    },
    enabled: ask !== null,
    placeholderData: keepPreviousData,
    retry: false,
    gcTime: 5000,
  });
  const shown = ask && !error ? (data ?? null) : null;
  return { built: isPlaceholderData ? null : shown, shown, refused: error?.message ?? null };
}

/** Rails that could take some loads, the best first. */
export function usePlaces(loads: readonly string[]): Place[] {
  const version = useDesign((state) => state.version);
  const { data } = useQuery({
    queryKey: ["places", version, loads],
    queryFn: ({ signal }) => {
      const design = useDesign.getState().document;
      if (!design) throw new Error("no design is open");
      return api.places(design, [...loads], signal);
    },
    enabled: loads.length > 0,
    gcTime: 5000,
    retry: false,
  });
  return data ?? [];
}

/** Takes what was built: one step of undo, and a notice that says where each load went. */
export function useTake(): (built: Built) => void {
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const { select, ask, choose } = usePlan();
  return (built) => {
    apply(built.label, built.edits);
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
      take(await api.build(design, ask));
    } catch (error) {
      notify((error as Error).message);
    }
  };
}
