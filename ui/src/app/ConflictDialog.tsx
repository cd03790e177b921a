import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import { dropDraft } from "../design/drafts";
import { useDesign } from "../design/store";
import { useNotice } from "../lib/notice";
import { Button } from "../ui/Button";
import { ChangesTable } from "./ChangesTable";
import { ChoiceDialog } from "./ChoiceDialog";

/** The same design was saved from elsewhere: both versions are offered, none is lost. */
export default function ConflictDialog() {
  const { id, saving, document: mine, change, openStored, rebase } = useDesign();
  const notify = useNotice((state) => state.notify);
  const navigate = useNavigate();
  const queries = useQueryClient();
  const theirs = saving.status === "conflict" ? saving.theirs : null;
  const compared = useQuery({
    queryKey: ["changes", id, theirs?.revision],
    queryFn: ({ signal }) => {
      if (!theirs || !mine) throw new Error("nothing to compare");
      return api.changes(theirs.document, mine, signal);
    },
    enabled: theirs !== null && mine !== null,
    gcTime: 0,
    retry: 3,
  });
  if (!theirs || !mine) return null;

  const keepBoth = async () => {
    try {
      const copy = await api.create({ ...mine, name: `${mine.name} (my copy)`.slice(0, 80) });
      openStored(theirs);
      await dropDraft(id);
      await queries.invalidateQueries({ queryKey: ["designs"] });
      notify("Yours is kept as a design of its own.", {
        label: "Open it",
        act: () => navigate(`/d/${copy.id}/plan`),
      });
    } catch (error) {
      notify(`Not copied: ${(error as Error).message}`);
    }
  };
  // The other version as a change: undo brings this one back.
  const takeTheirs = () => {
    change("use the other version", () => theirs.document);
    rebase(theirs.revision);
  };

  return (
    <ChoiceDialog
      name="conflict"
      title="This design was changed elsewhere"
      says={`Another tab or window saved it at ${new Date(theirs.saved_at).toLocaleTimeString()}, while you were working here. Nothing is overwritten until you choose; what you do not choose stays in the history or in Undo.`}
      detail={
        <ChangesTable
          changes={compared.data ?? null}
          failed={compared.error}
          before="There"
          after="Here"
        />
      }
    >
      <Button onClick={takeTheirs}>Use the other version</Button>
      <Button onClick={() => rebase(theirs.revision)}>Keep my version</Button>
      <Button look="main" onClick={() => void keepBoth()}>
        Keep both
      </Button>
    </ChoiceDialog>
  );
}
