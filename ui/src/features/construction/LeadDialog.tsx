import { type FormEvent, useState } from "react";
import { acRails, dcRails, isBank, isStation } from "../../design/edits";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Modal } from "../../ui/Modal";
import { Row } from "../../ui/Row";
import { Says } from "./Says";
import { useBuilt, useTake } from "./use-build";

/** Lead a rail into a station's input, or into a bank; says first what it brings. */
export default function LeadDialog({ to: startTo }: { to: string }) {
  const design = useDesign((state) => state.document);
  const close = usePlan((state) => state.ask);
  const show = usePlan((state) => state.show);
  const take = useTake();
  const [to, setTo] = useState(startTo);
  const [from, setFrom] = useState<string | null>(null);
  const [input, setInput] = useState("");
  const store = design?.stores.find((one) => one.id === to);
  const dc = design ? dcRails(design, to) : [];
  const rails: [string, string][] = design
    ? [
        ...dc,
        ...design.stores
          .filter((one) => one.kind !== "vehicle" && !isBank(one) && !isStation(one))
          .map((one): [string, string] => [one.id, one.name]),
        ...acRails(design, to).map(([id, name]): [string, string] => [id, `${name} (mains)`]),
      ]
    : [];
  const rail = from ?? (dc.at(-1) ?? rails[0])?.[0] ?? "";
  const { built, shown, refused } = useBuilt(
    rail ? { ask: "link", rail, to, input: input || null } : null,
  );
  if (!design) return null;
  const submit = (event: FormEvent) => {
    event.preventDefault();
    if (!built) return;
    take(built);
    show("leads");
  };
  return (
    <Modal title="Connect power to a store" name="lead" onClose={() => close(null)}>
      <form onSubmit={submit} className="mt-2">
        <Row name="Into">
          <Choose
            label="Store to charge"
            value={to}
            options={design.stores
              .filter((one) => isBank(one) || isStation(one))
              .map((one) => [one.id, one.name] as const)}
            onChange={(next) => {
              setTo(next);
              setInput("");
            }}
          />
          {store && isStation(store) ? (
            <Choose
              label="Charge input"
              value={input}
              options={[
                ["", "the input that suits"],
                ...store.inputs.map((one) => [one.id, one.name] as const),
              ]}
              onChange={setInput}
            />
          ) : null}
        </Row>
        {rails.length ? (
          <Row name="Fed from">
            <Choose label="Fed from" value={rail} options={rails} onChange={setFrom} />
          </Row>
        ) : (
          <p className="mt-2 text-sm">
            There is nothing else to feed it from. Add a battery bank or a source first, under
            Stores.
          </p>
        )}
        <Says built={shown} stale={!built} refused={refused} />
        <div className="mt-4 flex justify-end gap-2">
          <Button onClick={() => close(null)}>Cancel</Button>
          <Button look="main" type="submit" disabled={!built}>
            Connect
          </Button>
        </div>
      </form>
    </Modal>
  );
}
