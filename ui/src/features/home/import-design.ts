import type { QueryClient } from "@tanstack/react-query";
import { create } from "zustand";
import { api, Refused } from "../../api/client";
import type { ProblemDetails } from "../../api/types";
import { useNotice } from "../../lib/notice";

/** The last file that was refused, and what is wrong with it. */
export const useRefusal = create<{ refused: { file: string; problem: ProblemDetails } | null }>(
  () => ({ refused: null }),
);

/** Keep the design that a file holds, and go to it. */
export async function importDesign(file: File, queries: QueryClient, go: (to: string) => void) {
  const { notify } = useNotice.getState();
  useRefusal.setState({ refused: null });
  try {
    const { id, newParts } = await api.importText(await file.text());
    await queries.invalidateQueries({ queryKey: ["designs"] });
    if (newParts) await queries.invalidateQueries({ queryKey: ["shelf"] });
    go(`/d/${id}/plan`);
    if (newParts)
      notify(`${newParts} ${newParts === 1 ? "part is" : "parts are"} new on the shelf.`);
  } catch (error) {
    if (error instanceof Refused) {
      useRefusal.setState({ refused: { file: file.name, problem: error.problem } });
    }
    notify(`${file.name} was not imported: ${(error as Error).message}`);
  }
}
