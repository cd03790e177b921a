import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { createContext, useContext } from "react";
import { api } from "../../api/client";
import type { Course } from "../../api/types";
import { useDesign } from "../../design/store";

/** A run in full, up to some hours or to its end; the one before stays until it is there. */
export function useCourseOf(until: number | null) {
  const version = useDesign((state) => state.version);
  const id = useDesign((state) => state.id);
  return useQuery({
    queryKey: ["course", id, version, until],
    queryFn: ({ signal }) => {
      const design = useDesign.getState().document;
      if (!design) throw new Error("no design is open");
      return api.course(design, until, signal);
    },
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
    retry: false,
  });
}

/** What every part of the Run view reads. */
export interface Shown {
  course: Course;
  /** The rail whose volts are drawn, and its store. */
  rail: string;
  store: string;
  names: ReadonlyMap<string, string>;
  /** Place of each load in the design: its stone colour. */
  stones: ReadonlyMap<string, number>;
  reserve: number;
}

export const ShownContext = createContext<Shown | null>(null);

export function useShown(): Shown {
  const shown = useContext(ShownContext);
  if (!shown) throw new Error("used outside of the run");
  return shown;
}
