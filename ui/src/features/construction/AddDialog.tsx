import { type FormEvent, useState } from "react";
import type { Ask } from "../../api/types";
import { dcRails } from "../../design/edits";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { NumberField } from "../../editor/NumberField";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Modal } from "../../ui/Modal";
import { Row } from "../../ui/Row";
import { Says } from "./Says";
import { useBuilt, useTake } from "./use-build";

type What = "rail" | "inverter" | "feed";
const COMMON_VOLTS = [5, 9, 12, 19, 24, 48];

/** Add a rail of so many volts, an inverter or a feed; says first which loads go there and why. */
export default function AddDialog({ on: startOn }: { on: string }) {
  const design = useDesign((state) => state.document);
  const close = usePlan((state) => state.ask);
  const take = useTake();
  const [what, setWhat] = useState<What>("rail");
  const [volts, setVolts] = useState(24);
  const [on, setOn] = useState(startOn);
  const [chosen, setChosen] = useState<string[] | null>(null);
  const rails = design ? dcRails(design) : [];
  const place = rails.some(([id]) => id === on) ? on : (rails[0]?.[0] ?? "");
  const ask: Ask | null =
    what !== "rail"
      ? { ask: what, on: place, loads: chosen }
      : volts > 0
        ? { ask: what, on: place, volts, loads: chosen }
        : null;
  const { built, shown, refused } = useBuilt(ask);
  if (!design) return null;
  const moved = chosen ?? shown?.moved ?? [];
  const able = design.loads.filter((load) => load.supply.kind === "dc" || what === "inverter");
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (built) take(built);
  };
  const ofVolts = (next: number) => {
    setVolts(next);
    setChosen(null);
  };
  const fresh = (next: What) => {
    setWhat(next);
    setChosen(null);
  };
  return (
    <Modal title="Add to the design" name="add" onClose={() => close(null)}>
      <form onSubmit={submit} className="mt-2">
        <Row name="What">
          <Choose<What>
            label="What to add"
            value={what}
            options={[
              ["rail", "a DC rail, by a converter"],
              ["inverter", "a mains rail, by an inverter"],
              ["feed", "a fused feed"],
            ]}
            onChange={fresh}
          />
        </Row>
        {what === "rail" ? (
          <Row name="Volts">
            <NumberField
              label="Volts of the rail"
              unit="V DC"
              value={volts}
              path="/volts"
              applies="typed"
              onChange={ofVolts}
            />
            {COMMON_VOLTS.map((one) => (
              <button
                key={one}
                type="button"
                className="rounded border border-edge px-1.5 text-xs hover:border-river"
                onClick={() => ofVolts(one)}
              >
                {one}
              </button>
            ))}
          </Row>
        ) : null}
        <Row name="Fed from">
          <Choose label="Fed from" value={place} options={rails} onChange={setOn} />
        </Row>
        {able.length ? (
          <fieldset className="mt-2 max-h-44 overflow-y-auto rounded border border-line px-3 py-1.5">
            <legend className="px-1 text-soft text-sm">Loads that move there</legend>
            {able.map((load) => (
              <label key={load.id} className="flex items-center gap-2 text-sm">
                <input
                  type="checkbox"
                  className="size-4 accent-river"
                  checked={moved.includes(load.id)}
                  onChange={(event) =>
                    setChosen(
                      event.target.checked
                        ? [...moved, load.id]
                        : moved.filter((id) => id !== load.id),
                    )
                  }
                />
                {load.name}
              </label>
            ))}
          </fieldset>
        ) : null}
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
