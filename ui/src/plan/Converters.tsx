import type { Converter, Design, Stage } from "../api/types";
import { addConverter, removeStage, stagePath, withStage } from "../design/edits";
import { useDesign } from "../design/store";
import { useWorked } from "../design/use-evaluation";
import { Button } from "../parts/Button";
import { Choose } from "../parts/Choose";
import { FigureButton } from "../parts/FigureButton";
import { NumberField } from "../parts/NumberField";
import { Group, Row } from "../parts/Row";
import { TextField } from "../parts/TextField";
import { useNotice } from "../shell/notice";
import { AcceptsRow, SwitchedRow, VoltsRow } from "./StageRows";

interface ConvertersProps {
  design: Design;
  /** The inverter that has fields of its own. */
  except: string | undefined;
}

/** All other stages: converters with their fields, the rest by name. */
export function Converters({ design, except }: ConvertersProps) {
  const { reference } = useWorked();
  const change = useDesign((state) => state.change);
  const others = design.stages.filter((stage) => stage.id !== except);
  const add = () => change("add a converter", (d) => addConverter(d, reference.blank_converter));
  return (
    <section aria-label="Converters" className="mt-2">
      {others.map((stage) => (
        <OtherStage key={stage.id} stage={stage} design={design} />
      ))}
      <p className="my-2">
        <Button look="quiet" onClick={add}>
          + Add a DC-DC converter
        </Button>
      </p>
    </section>
  );
}

function OtherStage({ stage, design }: { stage: Stage; design: Design }) {
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const remove = () => {
    change(`remove ${stage.name}`, (d) => removeStage(d, stage.id));
    notify(`Removed ${stage.name}; what hung on it hangs on the rail before it.`, {
      label: "Undo",
      act: undo,
    });
  };
  return (
    <Group title={stage.name}>
      {stage.kind === "converter" ? <Fields converter={stage} design={design} /> : null}
      <p className="mt-1">
        <Button look="danger" onClick={remove}>
          Remove {stage.name}
        </Button>
      </p>
    </Group>
  );
}

function Fields({ converter, design }: { converter: Converter; design: Design }) {
  const change = useDesign((state) => state.change);
  const { id, name } = converter;
  const at = stagePath(design, id);
  const key = (figure: string) => `stage.${id}.${figure}`;
  const set = (field: string, part: Partial<Converter>) =>
    change(`${name}: ${field}`, (d) => withStage<Converter>(d, id, part), `${id}.${field}`);
  const rails: [string, string][] = [
    ...design.stores.map((store): [string, string] => [store.id, store.name]),
    ...design.stages
      .filter((stage) => stage.kind !== "inverter" && stage.id !== id)
      .map((stage): [string, string] => [stage.id, stage.name]),
  ];
  return (
    <div className="grid gap-x-10 lg:grid-cols-2">
      <div>
        <Row name="Name">
          <TextField
            label={`Name of ${id}`}
            className="sm:w-64"
            value={name}
            path={`${at}/name`}
            onChange={(value) => set("name", { name: value })}
          />
        </Row>
        <Row name="Fed from">
          <Choose
            label={`${name}: fed from`}
            value={converter.rail}
            options={rails}
            onChange={(rail) => set("rail", { rail })}
          />
          <Choose
            label={`${name}: kind`}
            value={converter.topology}
            options={[
              ["buck", "steps down (buck)"],
              ["boost", "steps up (boost)"],
              ["buck-boost", "up and down (buck-boost)"],
              ["linear", "linear"],
            ]}
            onChange={(topology) => set("kind", { topology })}
          />
        </Row>
        <AcceptsRow stage={converter} label={name} at={at} set={set} />
        <Row name="Gives">
          <NumberField
            label={`${name}: volts out`}
            width="w-16"
            unit="V"
            value={converter.set_v}
            path={`${at}/set_v`}
            onChange={(set_v) => set("volts out", { set_v })}
          />
          <NumberField
            label={`${name}: continuous amps`}
            width="w-16"
            unit="A"
            value={converter.continuous_a}
            path={`${at}/continuous_a`}
            onChange={(continuous_a) => set("amps", { continuous_a })}
          />
        </Row>
      </div>
      <div>
        <Row name="Efficiency, own draw">
          <NumberField
            label={`${name}: efficiency`}
            as="share"
            unit="%"
            width="w-14"
            value={converter.full_load.efficiency}
            path={`${at}/full_load/efficiency`}
            onChange={(efficiency) =>
              set("efficiency", { full_load: { ...converter.full_load, efficiency } })
            }
          />
          <NumberField
            label={`${name}: own draw`}
            unit="W"
            width="w-14"
            value={converter.quiescent_w}
            path={`${at}/quiescent_w`}
            onChange={(quiescent_w) => set("own draw", { quiescent_w })}
          />
        </Row>
        <SwitchedRow stage={converter} label={name} set={set} />
        <Row name="Amps out, good for">
          <FigureButton of={key("output_a")} className="font-semibold" />
          <FigureButton of={key("good_a")} />
          <FigureButton of={key("share")} digits={2} />
        </Row>
        <Row name="Amps in">
          <FigureButton of={key("input_a")} className="font-semibold" />
        </Row>
        <VoltsRow id={id} />
      </div>
    </div>
  );
}
