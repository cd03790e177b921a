import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNotice } from "../lib/notice";
import { api } from "./client";
import type { KeptPart } from "./types";

/** The parts on the shelf; empty until they are fetched. */
export function useShelf() {
  return useQuery({ queryKey: ["shelf"], queryFn: api.shelf, staleTime: 10_000 });
}

/** Tells every view that the shelf has changed, and says when something did not work. */
export function useShelfChange() {
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  return async <T>(work: () => Promise<T>): Promise<T | null> => {
    try {
      const done = await work();
      await queries.invalidateQueries({ queryKey: ["shelf"] });
      return done;
    } catch (error) {
      notify(`Not done: ${(error as Error).message}`);
      return null;
    }
  };
}

export const partOf = (shelf: readonly KeptPart[] | undefined, id: string) =>
  shelf?.find((kept) => kept.id === id);
