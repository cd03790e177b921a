import { useQuery } from "@tanstack/react-query";
import { api } from "./client";
import type { PartKind, Reference, ShelfPart } from "./types";

type Known = Omit<Reference, "blank_parts"> & { blanks: Record<PartKind, ShelfPart> };

/** What does not change with a design, and what new parts begin with; null until it is fetched. */
export function useReference(): Known | null {
  const { data } = useQuery({
    queryKey: ["reference"],
    queryFn: api.reference,
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (!data) return null;
  return { ...data, blanks: data.blank_parts as Record<PartKind, ShelfPart> };
}
