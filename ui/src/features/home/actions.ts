import type { QueryClient } from "@tanstack/react-query";
import { api } from "../../api/client";
import { useNotice } from "../../lib/notice";

/** Do something with a design, then fetch the lists anew; false, and a notice, if it failed. */
async function done(work: () => Promise<unknown>, not: string, queries: QueryClient) {
  try {
    await work();
  } catch (error) {
    useNotice.getState().notify(`${not}: ${(error as Error).message}`);
    return false;
  }
  await queries.invalidateQueries({ queryKey: ["designs"] });
  return true;
}

/** Delete a design, with a way back; `leave` leads away from it where it is shown. */
export async function removeDesign(
  id: string,
  name: string,
  queries: QueryClient,
  leave?: () => void,
) {
  if (!(await done(() => api.remove(id), "Not deleted", queries))) return;
  // First: what is noticed in a design is gone when it is left.
  leave?.();
  useNotice.getState().notify(`Deleted ${name}.`, {
    label: "Undo",
    act: () => void restoreDesign(id, name, queries),
  });
}

/** Bring a deleted design back. */
export async function restoreDesign(id: string, name: string, queries: QueryClient) {
  if (await done(() => api.restore(id), "Not restored", queries)) {
    useNotice.getState().notify(`${name} is back.`);
  }
}

/** Put a design away, with a way back. */
export async function archiveDesign(id: string, name: string, queries: QueryClient) {
  if (await done(() => api.archive(id), "Not archived", queries)) {
    useNotice.getState().notify(`Archived ${name}.`, {
      label: "Undo",
      act: () => void bringBackDesign(id, name, queries),
    });
  }
}

/** Bring an archived design back. */
export async function bringBackDesign(id: string, name: string, queries: QueryClient) {
  if (await done(() => api.bringBack(id), "Not brought back", queries)) {
    useNotice.getState().notify(`${name} is at hand again.`);
  }
}
