import { type FormEvent, useState } from "react";
import type { Ask } from "../../api/types";
import { useShelf } from "../../api/use-shelf";
import { usePlan } from "../../design/selection";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Modal } from "../../ui/Modal";
import { Row } from "../../ui/Row";
import { describe } from "../shelf/parts";
import { Says } from "./Says";
import { useBuilt, useTake } from "./use-build";

type What = "bank" | "station" | "vehicle" | "starter" | "mains" | "generator" | "sun";

/** Add a store: a bank or a station from the shelf or blank, or a source. */
export default function StoreDialog() {
  const close = usePlan((state) => state.ask);
  const show = usePlan((state) => state.show);
  const take = useTake();
  const shelf = useShelf();
  const [what, setWhat] = useState<What>("station");
  const [part, setPart] = useState("");
  const kind = what === "bank" ? "battery" : what;
  const parts = (shelf.data ?? []).filter((kept) => kept.part.kind === kind);
  const chosen = parts.find((kept) => kept.id === part);
  const copy = chosen ? { part: chosen.id, revision: chosen.revision } : null;
  const ask: Ask = {
    ask: "store",
    what,
    name: chosen?.part.name ?? null,
    battery: chosen?.part.kind === "battery" ? chosen.part.figures : null,
    station: chosen?.part.kind === "station" ? chosen.part.figures : null,
    shelf: copy,
  };
  const { built, shown, refused } = useBuilt(ask);
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!built) return;
    take(built);
    show("bank");
  };
  return (
    <Modal title="Add a store" name="store" onClose={() => close(null)}>
      <form onSubmit={submit} className="mt-2">
        <Row name="What">
          <Choose<What>
            label="Kind of store"
            value={what}
            options={[
              ["station", "a power station"],
              ["bank", "a battery bank"],
              ["vehicle", "a vehicle's socket or converter"],
              ["starter", "a vehicle with its starter battery"],
              ["mains", "a mains socket"],
              ["generator", "a generator"],
              ["sun", "solar panels"],
            ]}
            onChange={(next) => {
              setWhat(next);
              setPart("");
            }}
          />
        </Row>
        {what !== "bank" && what !== "station" ? null : (
          <Row name="From the shelf">
            <Choose
              label="Part of the shelf"
              className="max-w-80"
              value={part}
              options={[
                ["", "none: entered from its label"],
                ...parts.map((kept) => [kept.id, kept.part.name] as const),
              ]}
              onChange={setPart}
            />
          </Row>
        )}
        {chosen ? <p className="mt-1 text-soft text-sm">{describe(chosen.part)}</p> : null}
        <Says built={shown} stale={!built} refused={refused} />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => close(null)}>Cancel</Button>
          <Button look="main" type="submit" disabled={!built}>
            Add
          </Button>
        </div>
      </form>
    </Modal>
  );
}
