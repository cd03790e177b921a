import { useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import { useDesign } from "../design/store";
import { removeDesign } from "../features/home/actions";
import { useNotice } from "../lib/notice";
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
  const remove = async () => {
    if (await removeDesign(id, design.name, queries)) navigate("/");
  };
  // From what is on screen, saved or not.
  const exportIt = () => {
    const blob = new Blob([JSON.stringify(design, null, 2)], { type: "application/json" });
    const link = document.createElement("a");
    link.href = URL.createObjectURL(blob);
    const stem = design.name
      .toLowerCase()
      .replace(/[^a-z0-9]+/g, "-")
      .replace(/^-|-$/g, "");
    link.download = `${stem || "design"}.json`;
    link.click();
    setTimeout(() => URL.revokeObjectURL(link.href), 1000);
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
