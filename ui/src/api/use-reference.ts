import { useQuery } from "@tanstack/react-query";
import { api } from "./client";
import type { PartKind, Reference, ShelfPart } from "./types";

/** What new parts begin with; null until it is fetched. */
export function useReference(): {
  blanks: Record<PartKind, ShelfPart>;
  chemistries: Reference["chemistries"];
} | null {
  const { data } = useQuery({
    queryKey: ["reference"],
    queryFn: api.reference,
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (!data) return null;
  return {
    blanks: data.blank_parts as Record<PartKind, ShelfPart>,
    chemistries: data.chemistries,
  };
}
