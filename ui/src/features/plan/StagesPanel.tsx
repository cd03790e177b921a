import type { Converter, Design, Inverter, Stage } from "../../api/types";
import { dcRails, stagePath, withStage } from "../../design/edits";
import { PROVENANCES } from "../../design/labels";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { FigureButton } from "../../editor/FigureButton";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Group, Row } from "../../ui/Row";
import { WireLink } from "../cables/WireLink";
import { ConverterFields } from "../fields/ConverterFields";
import { IdleField, InverterFields, InverterLosses, SleepRow } from "../fields/InverterFields";
import { SwitchedRow, VoltsRow } from "../fields/StageRows";
import { ShelfRow } from "../shelf/ShelfRow";
import { Pick } from "./Pick";

/** The stages by name, and the selected one with all its fields. */
export default function StagesPanel() {
  const design = useDesign((state) => state.document);
  const { selected, ask } = usePlan();
  if (!design) return null;
  const stage = design.stages.find((one) => one.id === selected) ?? design.stages[0];
  const add = () => ask({ what: "add", on: "" });
  if (!stage) {
    return (
      <div className="my-4 max-w-140 rounded border border-edge border-dashed p-4">
        <p>
          There is no inverter and no converter: every load is connected straight to the bank. Mains
          appliances, and small ones that come with a mains adapter, need an inverter.
        </p>
        <p className="mt-3">
          <Button look="main" onClick={add}>
            Add an inverter or converter
          </Button>
        </p>
      </div>
    );
  }
  return (
    <>
      <Pick name="Stages" things={design.stages} at={stage.id}>
        <Button look="quiet" onClick={add}>
          + Add
        </Button>
      </Pick>
      <Editor key={stage.id} stage={stage} design={design} />
    </>
  );
}

interface EditorProps<S extends Stage> {
  stage: S;
  design: Design;
}

function Editor({ stage, design }: EditorProps<Stage>) {
  if (stage.kind === "inverter") return <InverterEditor stage={stage} design={design} />;
  if (stage.kind === "converter") return <ConverterEditor stage={stage} design={design} />;
  return (
    <div className="max-w-120">
      <Group title="Feed">
        <Place stage={stage} design={design} label="Feed" />
      </Group>
      <Remove stage={stage} />
    </div>
  );
}

/** How figures of a stage are changed, each change named for undo. */
function useSet<S extends Stage>(stage: S) {
  const change = useDesign((state) => state.change);
  return (field: string, part: Partial<S>) =>
    change(
      `${stage.name}: ${field}`,
      (d) => withStage<S>(d, stage.id, part),
      `${stage.id}.${field}`,
    );
}

/** What a stage is called, what it is connected to, and the joint between. */
function Place({ stage, design, label }: EditorProps<Stage> & { label: string }) {
  const set = useSet(stage);
  const at = stagePath(design, stage.id);
  return (
    <>
      <Row name="Name">
        <TextField
          label={label === "Inverter" ? "Inverter name" : `Name of ${stage.id}`}
          className="sm:w-72"
          value={stage.name}
          path={`${at}/name`}
          onChange={(name) => set("name", { name })}
        />
      </Row>
      <Row name="Fed from">
        <Choose
          label={`${label}: fed from`}
          value={stage.rail}
          options={dcRails(design, stage.id)}
          onChange={(rail) => set("rail", { rail })}
        />
      </Row>
      <Row name="Cable to it" help="both conductors; empty: by the rule">
        <NumberField
          label={`${label}: cable`}
          unit="mΩ"
          placeholder="rule"
          value={stage.cable_mohm ?? null}
          path={`${at}/cable_mohm`}
          onChange={(cable_mohm) => set("cable", { cable_mohm })}
          onClear={() => set("cable", { cable_mohm: null })}
        />
      </Row>
      <Row name="Carried by" help="length, size, fuse, connector">
        <WireLink subject={stage.id} />
      </Row>
      <Row name="Fuse before it" help="continuous amps of it and its cable">
        <NumberField
          label={`${label}: fuse`}
          unit="A"
          placeholder="unsaid"
          value={stage.fuse?.amps ?? null}
          path={`${at}/fuse/amps`}
          onChange={(amps) => set("fuse", { fuse: { ...stage.fuse, amps } })}
          onClear={() => set("fuse", { fuse: null })}
        />
      </Row>
    </>
  );
}

function KnownFrom({ stage, label }: { stage: Inverter | Converter; label: string }) {
  const set = useSet(stage);
  return (
    <Row name="Source">
      <Choose
        label={`${label} source`}
        value={stage.provenance}
        options={PROVENANCES}
        onChange={(provenance) => set("source", { provenance })}
      />
    </Row>
  );
}

function Remove({ stage }: { stage: Stage }) {
  const ask = usePlan((state) => state.ask);
  const name = stage.kind === "inverter" ? "the inverter" : stage.name;
  return (
    <p className="mt-1">
      <Button look="danger" onClick={() => ask({ what: "remove", stage: stage.id })}>
        Remove {name}
      </Button>
    </p>
  );
}

function InverterEditor({ stage, design }: EditorProps<Inverter>) {
  const set = useSet(stage);
  const at = stagePath(design, stage.id);
  const key = (figure: string) => `stage.${stage.id}.${figure}`;
  const fields = { value: stage, label: "Inverter", at, set };
  return (
    <div className="grid grid-cols-1 gap-x-10 lg:grid-cols-2">
      <div>
        <Group title="Label">
          <Place stage={stage} design={design} label="Inverter" />
          <InverterFields {...fields} />
          <KnownFrom stage={stage} label="Inverter" />
          <ShelfRow subject={stage.id} copy={stage.shelf ?? null} />
        </Group>
        <Remove stage={stage} />
      </div>
      <div>
        <Group title="Losses">
          <InverterLosses {...fields} />
          <Row name="Idle draw">
            <IdleField {...fields} />
            <FigureButton of={key("idle_a")} />
            <FigureButton of={key("idle_wh")} />
            <span className="text-soft text-sm">a day</span>
          </Row>
          <SwitchedRow stage={stage} label="Inverter" set={set} />
          <TransferRow stage={stage} design={design} />
          <SleepRow {...fields} />
        </Group>
        <Group title="Resulting figures">
          <Row name="At full load, from the bank">
            <span className="text-sm">
              at nominal volts <FigureButton of={key("full_quick_a")} /> · at lowest{" "}
              <FigureButton of={key("full_design_a")} className="font-semibold" />
            </span>
          </Row>
          <Row name="Running together">
            <FigureButton of={key("running_w")} className="font-semibold" />
            <FigureButton of={key("running_va")} />
            <FigureButton of={key("share")} digits={2} />
          </Row>
          <Row name="Highest start">
            <FigureButton of={key("worst_start_w")} className="font-semibold" />
            <span className="text-soft text-sm">
              trusted with <FigureButton of={key("trusted_surge_w")} />
            </span>
          </Row>
          <VoltsRow id={stage.id} />
        </Group>
      </div>
    </div>
  );
}

/** The mains that an inverter-charger or a backup box passes on while it is there. */
function TransferRow({ stage, design }: EditorProps<Inverter>) {
  const set = useSet(stage);
  const mains = design.stores.filter(
    (store) => store.kind === "mains" || store.kind === "generator",
  );
  if (!mains.length) return null;
  return (
    <Row name="Passes on" help="an inverter-charger or backup box: its loads run from the mains">
      <Choose<string>
        label="Inverter: passes on"
        value={stage.transfer ?? ""}
        options={[
          ["", "nothing: always from the battery"],
          ...mains.map((store): [string, string] => [store.id, store.name]),
        ]}
        onChange={(id) => set("transfer", { transfer: id || null })}
      />
      {stage.transfer ? (
        <Choose
          label="Inverter: changeover"
          value={stage.changeover}
          options={[
            ["unknown", "break unknown"],
            ["none", "without a break"],
            ["break", "with a break"],
          ]}
          onChange={(changeover) => set("changeover", { changeover })}
        />
      ) : null}
    </Row>
  );
}

function ConverterEditor({ stage, design }: EditorProps<Converter>) {
  const set = useSet(stage);
  const at = stagePath(design, stage.id);
  const key = (figure: string) => `stage.${stage.id}.${figure}`;
  return (
    <div className="grid grid-cols-1 gap-x-10 lg:grid-cols-2">
      <div>
        <Group title="Label">
          <Place stage={stage} design={design} label={stage.name} />
          <ConverterFields value={stage} label={stage.name} at={at} set={set} />
          <KnownFrom stage={stage} label={stage.name} />
          <ShelfRow subject={stage.id} copy={stage.shelf ?? null} />
        </Group>
        <Remove stage={stage} />
      </div>
      <div>
        <Group title="Here">
          <Row name="In parallel" help="alike units that share the current">
            <NumberField
              label={`${stage.name}: in parallel`}
              as="whole"
              width="w-14"
              value={stage.parallel}
              path={`${at}/parallel`}
              onChange={(parallel) => set("in parallel", { parallel })}
            />
          </Row>
          <SwitchedRow stage={stage} label={stage.name} set={set} />
        </Group>
        <Group title="Resulting figures">
          <Row name="Output current, advised limit">
            <FigureButton of={key("output_a")} className="font-semibold" />
            <FigureButton of={key("good_a")} />
            <FigureButton of={key("share")} digits={2} />
          </Row>
          <Row name="Amps in">
            <FigureButton of={key("input_a")} className="font-semibold" />
          </Row>
          <VoltsRow id={stage.id} />
        </Group>
      </div>
    </div>
  );
}
