import { useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import { useDesign } from "../design/store";
import { removeDesign } from "../features/home/actions";
import { useNotice } from "../lib/notice";
import { saveFile } from "../lib/save-file";
import { Menu } from "../ui/Menu";

const HistoryDialog = lazy(() => import("./HistoryDialog"));

/** What can be done with the whole design. */
export function DesignMenu() {
  const { id, document: design } = useDesign();
  const navigate = useNavigate();
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const [history, setHistory] = useState(false);
  if (!design) return null;

  const duplicate = async () => {
    try {
      const copy = await api.create({ ...design, name: `${design.name} (copy)`.slice(0, 80) });
      await queries.invalidateQueries({ queryKey: ["designs"] });
      navigate(`/d/${copy.id}/plan`);
    } catch (error) {
      notify(`Not duplicated: ${(error as Error).message}`);
    }
  };
  const remove = () => removeDesign(id, design.name, queries, () => navigate("/"));
  // From what is on screen, saved or not.
  const exportIt = () => saveJson(design, stemOf(design.name));
  const share = async (prices: boolean) => {
    try {
      saveJson(await api.share(design, prices), `${stemOf(design.name)}-with-parts`);
    } catch (error) {
      notify(`Not exported: ${(error as Error).message}`);
    }
  };

  return (
    <>
      <Menu
        label="This design: duplicate, history, export, delete"
        className="rounded px-2 py-1 hover:bg-river-wash"
        items={[
          { text: "Duplicate", onSelect: () => void duplicate() },
          { text: "History…", onSelect: () => setHistory(true) },
          { text: "Export as JSON", onSelect: exportIt },
          { text: "Export with parts and prices", onSelect: () => void share(true) },
          { text: "Export with parts, no prices", onSelect: () => void share(false) },
          { text: "All designs", onSelect: () => navigate("/") },
          { text: "Delete", onSelect: () => void remove(), removes: true },
        ]}
      />
      {history ? (
        <Suspense fallback={null}>
          <HistoryDialog onClose={() => setHistory(false)} />
        </Suspense>
      ) : null}
    </>
  );
}

const stemOf = (name: string) =>
  name
    .toLowerCase()
    .replace(/[^a-z0-9]+/g, "-")
    .replace(/^-|-$/g, "") || "design";

const saveJson = (value: unknown, stem: string) =>
  saveFile(
    new Blob([JSON.stringify(value, null, 2)], { type: "application/json" }),
    `${stem}.json`,
  );
