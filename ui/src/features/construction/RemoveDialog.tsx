import { type FormEvent, useState } from "react";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { listed } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Modal } from "../../ui/Modal";
import { PlaceChoice } from "./PlaceChoice";
import { Says } from "./Says";
import { useBuilt, usePlaces, useTake } from "./use-build";

/** Remove a stage; asks where its loads go. */
export default function RemoveDialog({ stage: id }: { stage: string }) {
  const design = useDesign((state) => state.document);
  const close = usePlan((state) => state.ask);
  const take = useTake();
  const stage = design?.stages.find((one) => one.id === id);
  const loads = design?.loads.filter((load) => load.rail === id) ?? [];
  const places = usePlaces(loads.map((load) => load.id)).filter((place) => place.rail !== id);
  const [to, setTo] = useState<string | null>(null);
  const best = places.find((place) => place.suits !== "does not fit")?.rail ?? "";
  const chosen = to ?? best;
  const { built, shown, refused } = useBuilt({
    ask: "remove",
    stage: id,
    loads_to: chosen || null,
  });
  if (!design || !stage) return null;
  const inner = design.stages.filter((one) => one.rail === id);
  const leads = design.links.filter((one) => one.rail === id);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (built) take(built);
  };
  return (
    <Modal title={`Remove ${stage.name}?`} name="remove" onClose={() => close(null)}>
      <form onSubmit={submit}>
        {inner.length ? (
          <p className="mt-2 text-sm">
            {listed(inner.map((one) => one.name))} will be connected to the rail before it.
          </p>
        ) : null}
        {leads.length ? (
          <p className="mt-2 text-sm">
            {listed(leads.map((one) => one.name))} {leads.length > 1 ? "go" : "goes"} with it.
          </p>
        ) : null}
        {loads.length ? (
          <>
            <p className="mt-2 text-sm">
              Where {loads.length > 1 ? "do" : "does"} {listed(loads.map((load) => load.name))} go?
              A load that cannot go there is not connected.
            </p>
            <PlaceChoice places={places} value={chosen} onChange={setTo} now={id} />
          </>
        ) : leads.length ? null : (
          <p className="mt-2 text-sm">Nothing is connected to it.</p>
        )}
        <Says built={shown} stale={!built} refused={refused} />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => close(null)}>Cancel</Button>
          <Button look="danger" type="submit" disabled={!built}>
            Remove
          </Button>
        </div>
      </form>
    </Modal>
  );
}
