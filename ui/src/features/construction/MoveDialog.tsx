import { type FormEvent, useState } from "react";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { listed } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Modal } from "../../ui/Modal";
import { PlaceChoice } from "./PlaceChoice";
import { Says } from "./Says";
import { useBuilt, usePlaces, useTake } from "./use-build";

/** Move loads to another rail: every rail with how it suits them, the best first. */
export default function MoveDialog({ loads }: { loads: readonly string[] }) {
  const design = useDesign((state) => state.document);
  const close = usePlan((state) => state.ask);
  const take = useTake();
  const places = usePlaces(loads);
  const now = design?.loads.find((load) => load.id === loads[0])?.rail;
  const [to, setTo] = useState<string | null>(null);
  const chosen = to ?? places.find((place) => place.rail !== now)?.rail ?? "";
  const { built, shown, refused } = useBuilt(
    places.length || to === "" ? { ask: "move", loads: [...loads], to: chosen || null } : null,
  );
  if (!design) return null;
  const names = design.loads.filter((load) => loads.includes(load.id)).map((load) => load.name);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (built) take(built);
  };
  return (
    <Modal title={`Move ${listed(names)}`} name="move" onClose={() => close(null)}>
      <form onSubmit={submit}>
        <PlaceChoice places={places} value={chosen} onChange={setTo} now={now ?? ""} />
        <Says built={shown} stale={!built} refused={refused} />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => close(null)}>Cancel</Button>
          <Button look="main" type="submit" disabled={!built}>
            Move
          </Button>
        </div>
      </form>
    </Modal>
  );
}
