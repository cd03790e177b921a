import type { Design, Inverter } from "../api/types";
import {
  addInverter,
  inverterKey,
  inverterOf,
  removeStage,
  stagePath,
  withInverter,
} from "../design/edits";
import { useDesign } from "../design/store";
import { useWorked } from "../design/use-evaluation";
import { Button } from "../parts/Button";
import { Choose } from "../parts/Choose";
import { FigureButton } from "../parts/FigureButton";
import { NumberField } from "../parts/NumberField";
import { Group, Row } from "../parts/Row";
import { TextField } from "../parts/TextField";
import { useNotice } from "../shell/notice";
import { Converters } from "./Converters";
import { AcceptsRow, SwitchedRow, VoltsRow } from "./StageRows";
import { PROVENANCES } from "./words";

/** Inverter and converters as labelled, what they carry and whether the volts fit them. */
export function InverterPanel() {
  const { reference } = useWorked();
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  if (!design) return null;
  const inverter = inverterOf(design);
  const add = () => change("add an inverter", (d) => addInverter(d, reference.blank_inverter));
  return (
    <>
      {inverter ? (
        <Fields design={design} inverter={inverter} />
      ) : (
        <div className="my-4 max-w-140 rounded border border-edge border-dashed p-4">
          <p>
            There is no inverter: every load hangs straight on the bank. Mains appliances, and small
            ones that come with a mains adapter, need one.
          </p>
          <p className="mt-3">
            <Button look="main" onClick={add}>
              Add an inverter
            </Button>
          </p>
        </div>
      )}
      <Converters design={design} except={inverter?.id} />
    </>
  );
}

function Fields({ design, inverter }: { design: Design; inverter: Inverter }) {
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const set = (field: string, part: Partial<Inverter>) =>
    change(`inverter: ${field}`, (d) => withInverter(d, part), `inverter.${field}`);
  const at = stagePath(design, inverter.id);
  const remove = () => {
    change("remove the inverter", (d) => removeStage(d, inverter.id));
    notify("Removed the inverter; mains appliances hang on no rail now.", {
      label: "Undo",
      act: undo,
    });
  };
  const watts = (field: "continuous_w" | "surge_w" | "idle_w", name: string) => (
    <NumberField
      label={name}
      unit="W"
      value={inverter[field]}
      path={`${at}/${field}`}
      onChange={(value) => set(field, { [field]: value })}
    />
  );
  return (
    <div className="grid gap-x-10 lg:grid-cols-2">
      <div>
        <Group title="Label">
          <Row name="Name">
            <TextField
              label="Inverter name"
              className="sm:w-72"
              value={inverter.name}
              path={`${at}/name`}
              onChange={(name) => set("name", { name })}
            />
          </Row>
          <Row name="Nominal input">
            <NumberField
              label="Inverter nominal volts"
              unit="V DC"
              value={inverter.nominal_v}
              path={`${at}/nominal_v`}
              onChange={(nominal_v) => set("nominal volts", { nominal_v })}
            />
          </Row>
          <AcceptsRow stage={inverter} label="Inverter" at={at} set={set} />
          <Row name="Gives">
            <NumberField
              label="Inverter output volts"
              unit="V AC"
              width="w-16"
              value={inverter.output_v}
              path={`${at}/output_v`}
              onChange={(output_v) => set("output", { output_v })}
            />
            <Choose
              label="Waveform"
              value={inverter.waveform}
              options={[
                ["pure sine", "pure sine"],
                ["modified sine", "modified sine"],
              ]}
              onChange={(waveform) => set("waveform", { waveform })}
            />
          </Row>
          <Row name="Continuous, surge">
            {watts("continuous_w", "Inverter continuous watts")}
            {watts("surge_w", "Inverter surge watts")}
          </Row>
          <Row name="Surge lasts" help="only if a datasheet states it">
            <NumberField
              label="Surge seconds"
              unit="s"
              placeholder="unsaid"
              value={inverter.surge_s ?? null}
              path={`${at}/surge_s`}
              onChange={(surge_s) => set("surge seconds", { surge_s })}
              onClear={() => set("surge seconds", { surge_s: null })}
            />
          </Row>
          <Row name="Known from">
            <Choose
              label="Inverter known from"
              value={inverter.provenance}
              options={PROVENANCES}
              onChange={(provenance) => set("known from", { provenance })}
            />
          </Row>
        </Group>
        <p className="mt-1">
          <Button look="danger" onClick={remove}>
            Remove the inverter
          </Button>
        </p>
      </div>
      <div>
        <Group title="Losses">
          {(["part_load", "full_load"] as const).map((point) => (
            <Row key={point} name={point === "part_load" ? "Best efficiency" : "At full load"}>
              <NumberField
                label={`Efficiency, ${point === "part_load" ? "part load" : "full load"}`}
                as="share"
                unit="%"
                width="w-14"
                value={inverter[point].efficiency}
                path={`${at}/${point}/efficiency`}
                onChange={(efficiency) =>
                  set(point, { [point]: { ...inverter[point], efficiency } })
                }
              />
              at
              <NumberField
                label={`Load share, ${point === "part_load" ? "part load" : "full load"}`}
                as="share"
                unit="% load"
                width="w-14"
                value={inverter[point].load_share}
                path={`${at}/${point}/load_share`}
                onChange={(load_share) =>
                  set(point, { [point]: { ...inverter[point], load_share } })
                }
              />
            </Row>
          ))}
          <Row name="Idle draw">
            {watts("idle_w", "Inverter idle watts")}
            <FigureButton of={inverterKey(design, "idle_a")} />
            <FigureButton of={inverterKey(design, "idle_wh")} />
            <span className="text-soft text-sm">a day</span>
          </Row>
          <SwitchedRow stage={inverter} label="Inverter" set={set} />
          <SleepRow inverter={inverter} at={at} set={set} />
        </Group>
        <Group title="What that makes">
          <Row name="At full load, from the bank">
            <span className="text-sm">
              quick <FigureButton of={inverterKey(design, "full_quick_a")} /> · design{" "}
              <FigureButton of={inverterKey(design, "full_design_a")} className="font-semibold" />
            </span>
          </Row>
          <Row name="Running together">
            <FigureButton of={inverterKey(design, "running_w")} className="font-semibold" />
            <FigureButton of={inverterKey(design, "running_va")} />
            <FigureButton of={inverterKey(design, "share")} digits={2} />
          </Row>
          <Row name="Worst start">
            <FigureButton of={inverterKey(design, "worst_start_w")} className="font-semibold" />
            <span className="text-soft text-sm">
              trusted with <FigureButton of={inverterKey(design, "trusted_surge_w")} />
            </span>
          </Row>
          <VoltsRow id={inverter.id} />
        </Group>
      </div>
    </div>
  );
}

interface SleepRowProps {
  inverter: Inverter;
  at: string;
  set: (field: string, part: Partial<Inverter>) => void;
}

function SleepRow({ inverter, at, set }: SleepRowProps) {
  const { sleep } = inverter;
  return (
    <Row name="Sleeps" help="search mode, while little is asked">
      <input
        type="checkbox"
        className="size-4 accent-river"
        aria-label="Inverter has a sleep mode"
        checked={Boolean(sleep)}
        onChange={(event) =>
          set("sleep", { sleep: event.target.checked ? { watts: 3, threshold_w: 20 } : null })
        }
      />
      {sleep ? (
        <>
          <NumberField
            label="Watts asleep"
            unit="W"
            width="w-14"
            value={sleep.watts}
            path={`${at}/sleep/watts`}
            onChange={(watts) => set("sleep watts", { sleep: { ...sleep, watts } })}
          />
          below
          <NumberField
            label="Sleep threshold"
            unit="W asked"
            width="w-14"
            value={sleep.threshold_w}
            path={`${at}/sleep/threshold_w`}
            onChange={(threshold_w) => set("sleep threshold", { sleep: { ...sleep, threshold_w } })}
          />
        </>
      ) : null}
    </Row>
  );
}
