import type { QueryClient } from "@tanstack/react-query";
import { api } from "../../api/client";
import { useNotice } from "../../lib/notice";

/** Delete a design, with a way back; false if it could not be done. */
export async function removeDesign(id: string, name: string, queries: QueryClient) {
  const { notify } = useNotice.getState();
  const refresh = () => queries.invalidateQueries({ queryKey: ["designs"] });
  try {
    await api.remove(id);
  } catch (error) {
    notify(`Not deleted: ${(error as Error).message}`);
    return false;
  }
  await refresh();
  const restore = async () => {
    try {
      await api.restore(id);
      await refresh();
      notify(`${name} is back.`);
    } catch (error) {
      notify(`Not restored: ${(error as Error).message}`);
    }
  };
  notify(`Deleted ${name}.`, { label: "Undo", act: () => void restore() });
  return true;
}
