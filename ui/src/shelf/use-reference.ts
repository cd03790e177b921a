import { useQuery } from "@tanstack/react-query";
import { api } from "../api/client";
import type { PartKind, ShelfPart } from "../api/types";

/** Blank parts to begin a new one from; null until they are fetched. */
export function useReference(): Record<PartKind, ShelfPart> | null {
  const { data } = useQuery({
    queryKey: ["reference"],
    queryFn: api.reference,
    staleTime: Number.POSITIVE_INFINITY,
  });
  return data ? (data.blank_parts as Record<PartKind, ShelfPart>) : null;
}
