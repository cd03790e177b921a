import { useQueryClient } from "@tanstack/react-query";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import { dropDraft } from "../design/drafts";
import { useDesign } from "../design/store";
import { useNotice } from "../lib/notice";
import { Button } from "../ui/Button";
import { ChoiceDialog } from "./ChoiceDialog";

/** The design was deleted elsewhere while there are changes here: nothing of them is lost. */
export default function GoneDialog() {
  const { id, saving, document: mine, rebase } = useDesign();
  const notify = useNotice((state) => state.notify);
  const navigate = useNavigate();
  const queries = useQueryClient();
  if (saving.status !== "gone" || !mine) return null;

  const restore = async () => {
    try {
      const restored = await api.restore(id);
      rebase(restored.revision);
    } catch (error) {
      notify(`Not restored: ${(error as Error).message}`);
    }
  };
  const keep = async () => {
    try {
      const copy = await api.create(mine);
      await dropDraft(id);
      await queries.invalidateQueries({ queryKey: ["designs"] });
      navigate(`/d/${copy.id}/plan`);
    } catch (error) {
      notify(`Not saved: ${(error as Error).message}`);
    }
  };
  const discard = async () => {
    await dropDraft(id);
    navigate("/");
  };
  return (
    <ChoiceDialog
      name="gone"
      title="This design was deleted elsewhere"
      says="Your changes are still here. They are kept in this browser until you choose."
    >
      <Button onClick={() => void discard()}>Discard my changes</Button>
      <Button onClick={() => void keep()}>Save as a new design</Button>
      <Button look="main" onClick={() => void restore()}>
        Restore it with my changes
      </Button>
    </ChoiceDialog>
  );
}
