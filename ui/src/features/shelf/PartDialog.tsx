import { type FormEvent, useEffect, useState } from "react";
import { api, Refused } from "../../api/client";
import type { KeptPart, ProblemPlace, Reference, ShelfPart } from "../../api/types";
import { PROVENANCES } from "../../design/labels";
import { ProblemsContext } from "../../design/use-evaluation";
import { LabelEntry } from "../../editor/LabelEntry";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Modal } from "../../ui/Modal";
import { Group, Row } from "../../ui/Row";
import { BatteryFields } from "../fields/BatteryFields";
import { ChargerFields } from "../fields/ChargerFields";
import { ConverterFields } from "../fields/ConverterFields";
import { InputFields } from "../fields/InputFields";
import { IdleField, InverterFields, InverterLosses, SleepRow } from "../fields/InverterFields";
import { OutletFields } from "../fields/OutletFields";
import { PanelFields } from "../fields/PanelFields";
import { StationFields } from "../fields/StationFields";
import { CableFields, FuseFields } from "../fields/WiringFields";
import { dropPart, findPart, keepPart } from "./part-drafts";
import { KINDS } from "./parts";

const NONE: ReadonlySet<string> = new Set();

interface PartDialogProps {
  start: ShelfPart;
  reference: Pick<Reference, "chemistries" | "sizes" | "fuse_kinds">;
  /** The part that is changed; null for a new one. */
  kept: KeptPart | null;
  onDone: (saved: KeptPart) => void;
  onClose: () => void;
}

/** A part from its label: figures, price, mass, notes, and where each figure comes from. */
export function PartDialog(props: PartDialogProps) {
  const { start, reference, kept, onDone, onClose } = props;
  const { chemistries } = reference;
  const [before] = useState(() => findPart(kept, start.kind));
  const [restored, setRestored] = useState(before !== null);
  const [part, setPart] = useState(before ?? start);
  const [problems, setProblems] = useState<readonly ProblemPlace[]>([]);
  const [failed, setFailed] = useState("");
  const set = (change: Partial<ShelfPart>) =>
    setPart((now) => ({ ...now, ...change }) as ShelfPart);
  const setFigures = (_: string, change: object) =>
    setPart((now) => ({ ...now, figures: { ...now.figures, ...change } }) as ShelfPart);

  // Closed by a slip, what was typed is there again.
  useEffect(() => {
    if (part !== start) keepPart(kept, part);
  }, [part, start, kept]);
  const drop = () => dropPart(kept, start.kind);
  const discard = () => {
    drop();
    setPart(start);
    setRestored(false);
  };
  const cancel = () => {
    drop();
    onClose();
  };

  const save = async (event: FormEvent) => {
    event.preventDefault();
    try {
      const saved = kept
        ? await api.savePart(kept.id, kept.revision, part)
        : (await api.addParts([part]))[0];
      drop();
      if (saved) onDone(saved);
    } catch (error) {
      const found = error instanceof Refused ? error.problem.errors : [];
      setProblems(found.map((one) => ({ ...one, path: one.path.replace(/^\/parts?(\/0)?/, "") })));
      setFailed((error as Error).message);
    }
  };
  const fields = { label: "Part", at: "/figures", set: setFigures };
  return (
    <Modal
      title={kept ? `Change ${start.name}` : `A new ${KINDS[part.kind].one}`}
      name="part"
      wide
      onClose={onClose}
    >
      <ProblemsContext value={problems}>
        <form
          onSubmit={(event) => void save(event)}
          className="mt-2 grid grid-cols-1 gap-x-8 md:grid-cols-2"
        >
          <div>
            <Group title="Label">
              {part.kind === "cable" || part.kind === "fuse" ? null : (
                <LabelEntry kind={part.kind} onUse={(figures) => setFigures("label", figures)} />
              )}
              <Row name="Name">
                <TextField
                  label="Part name"
                  className="sm:w-72"
                  value={part.name}
                  path="/name"
                  onChange={(name) => set({ name })}
                />
              </Row>
              {part.kind === "battery" ? (
                <BatteryFields
                  {...fields}
                  value={part.figures}
                  chemistry={
                    <Choose
                      label="Chemistry"
                      value={part.figures.chemistry}
                      options={chemistries.map((one) => [one.key, one.name] as const)}
                      onChange={(chemistry) => setFigures("chemistry", { chemistry })}
                    />
                  }
                />
              ) : null}
              {part.kind === "inverter" ? (
                <>
                  <InverterFields {...fields} value={part.figures} />
                  <InverterLosses {...fields} value={part.figures} />
                  <Row name="Idle draw">
                    <IdleField {...fields} value={part.figures} />
                  </Row>
                  <SleepRow {...fields} value={part.figures} />
                </>
              ) : null}
              {part.kind === "converter" ? (
                <ConverterFields {...fields} value={part.figures} />
              ) : null}
              {part.kind === "charger" ? <ChargerFields {...fields} value={part.figures} /> : null}
              {part.kind === "panel" ? <PanelFields {...fields} value={part.figures} /> : null}
              {part.kind === "cable" ? (
                <CableFields {...fields} value={part.figures} sizes={reference.sizes} />
              ) : null}
              {part.kind === "fuse" ? (
                <FuseFields {...fields} value={part.figures} fuse_kinds={reference.fuse_kinds} />
              ) : null}
              {part.kind === "station" ? (
                <StationFields
                  {...fields}
                  value={part.figures}
                  chemistry={
                    <Choose
                      label="Part: chemistry"
                      value={part.figures.chemistry}
                      options={chemistries.map((one) => [one.key, one.name] as const)}
                      onChange={(chemistry) => setFigures("chemistry", { chemistry })}
                    />
                  }
                />
              ) : null}
            </Group>
          </div>
          <div>
            <Group title="Noted">
              <Row name="Price" help={part.kind === "cable" ? "of a metre" : "in your own money"}>
                <NumberField
                  label="Price"
                  placeholder="unsaid"
                  value={part.price ?? null}
                  path="/price"
                  onChange={(price) => set({ price })}
                  onClear={() => set({ price: null })}
                />
              </Row>
              <Row name="Mass" help={part.kind === "cable" ? "of a metre" : "of one"}>
                <NumberField
                  label="Mass"
                  unit="kg"
                  placeholder="unsaid"
                  value={part.mass_kg ?? null}
                  path="/mass_kg"
                  onChange={(mass_kg) => set({ mass_kg })}
                  onClear={() => set({ mass_kg: null })}
                />
              </Row>
              <Row
                name="You have"
                help={part.kind === "cable" ? "metres already there" : "how many are there already"}
              >
                <NumberField
                  label="Owned"
                  as="whole"
                  placeholder="0"
                  value={part.owned || null}
                  path="/owned"
                  onChange={(owned) => set({ owned })}
                  onClear={() => set({ owned: 0 })}
                />
              </Row>
              <label className="mt-1 block text-sm">
                Notes
                <textarea
                  className="field mt-1 block w-full"
                  rows={2}
                  maxLength={1000}
                  value={part.notes}
                  onChange={(event) => set({ notes: event.target.value })}
                />
              </label>
            </Group>
            <Group title="Source">
              <Row name="The part">
                <Choose
                  label="Part source"
                  value={part.provenance ?? "label"}
                  options={PROVENANCES}
                  onChange={(provenance) => set({ provenance })}
                />
              </Row>
              <KnownFrom part={part} set={set} />
            </Group>
          </div>
          {part.kind === "station" ? (
            <div className="md:col-span-2">
              <Group title="Outlets">
                <OutletFields {...fields} value={part.figures} taken={NONE} used={NONE} />
              </Group>
              <Group title="Charge inputs">
                <InputFields {...fields} value={part.figures} used={NONE} />
              </Group>
            </div>
          ) : null}
          {failed ? (
            <p role="alert" className="text-sm text-stop md:col-span-2">
              {failed}
            </p>
          ) : null}
          <div className="mt-2 flex flex-wrap items-center justify-end gap-2 md:col-span-2">
            {restored ? (
              <p role="status" className="mr-auto text-sm" data-part="restored">
                What you typed before is back. It is not saved yet.{" "}
                <button type="button" className="text-river underline" onClick={discard}>
                  Discard it
                </button>
              </p>
            ) : null}
            <Button onClick={cancel}>Cancel</Button>
            <Button look="main" type="submit">
              {kept ? "Save" : "Put on the shelf"}
            </Button>
          </div>
        </form>
      </ProblemsContext>
    </Modal>
  );
}

interface KnownFromProps {
  part: ShelfPart;
  set: (change: Partial<ShelfPart>) => void;
}

/** Where single figures come from, where that differs from the part as a whole. */
function KnownFrom({ part, set }: KnownFromProps) {
  const known = part.known_from ?? {};
  const options = [["", "as the part"], ...PROVENANCES] as const;
  return (
    <details>
      <summary className="text-river text-sm">
        Single figures{Object.keys(known).length ? `: ${Object.keys(known).length} differ` : ""}
      </summary>
      {Object.keys(part.figures).map((figure) => (
        <Row key={figure} name={figure.replaceAll("_", " ")}>
          <Choose
            label={`${figure.replaceAll("_", " ")} source`}
            value={known[figure] ?? ""}
            options={options}
            onChange={(value) => {
              const { [figure]: _, ...rest } = known;
              set({ known_from: value ? { ...rest, [figure]: value } : rest });
            }}
          />
        </Row>
      ))}
    </details>
  );
}
