import { NumberField } from "../../editor/NumberField";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import type { FieldsProps, InverterFigures } from "./fields";
import { HertzChoice } from "./HertzChoice";
import { AcceptsRow, ResetsRow } from "./StageRows";

type Props = FieldsProps<InverterFigures>;

/** What stands on an inverter's label. */
export function InverterFields({ value, label, at, set }: Props) {
  const watts = (field: "continuous_w" | "surge_w", name: string) => (
    <NumberField
      label={name}
      unit="W"
      value={value[field]}
      path={`${at}/${field}`}
      onChange={(given) => set(field, { [field]: given })}
    />
  );
  return (
    <>
      <Row name="Nominal input">
        <NumberField
          label={`${label} nominal volts`}
          unit="V DC"
          value={value.nominal_v}
          path={`${at}/nominal_v`}
          onChange={(nominal_v) => set("nominal volts", { nominal_v })}
        />
      </Row>
      <AcceptsRow stage={value} label={label} at={at} set={set} />
      <Row name="Gives">
        <NumberField
          label={`${label} output volts`}
          unit="V AC"
          width="w-16"
          value={value.output_v}
          path={`${at}/output_v`}
          onChange={(output_v) => set("output", { output_v })}
        />
        <HertzChoice
          label={`${label} output frequency`}
          value={value.output_hz}
          onChange={(output_hz) => set("frequency", { output_hz })}
        />
        <Choose
          label="Waveform"
          value={value.waveform}
          options={[
            ["pure sine", "pure sine"],
            ["modified sine", "modified sine"],
          ]}
          onChange={(waveform) => set("waveform", { waveform })}
        />
      </Row>
      <Row name="Continuous, surge">
        {watts("continuous_w", `${label} continuous watts`)}
        {watts("surge_w", `${label} surge watts`)}
      </Row>
      <Row name="Surge lasts" help="only if a datasheet states it">
        <NumberField
          label="Surge seconds"
          unit="s"
          placeholder="unsaid"
          value={value.surge_s ?? null}
          path={`${at}/surge_s`}
          onChange={(surge_s) => set("surge seconds", { surge_s })}
          onClear={() => set("surge seconds", { surge_s: null })}
        />
      </Row>
    </>
  );
}

/** What an inverter loses, but for its idle draw. */
export function InverterLosses({ value, at, set }: Props) {
  return (["part_load", "full_load"] as const).map((point) => (
    <Row key={point} name={point === "part_load" ? "Best efficiency" : "At full load"}>
      <NumberField
        label={`Efficiency, ${point === "part_load" ? "part load" : "full load"}`}
        as="share"
        unit="%"
        width="w-14"
        value={value[point].efficiency}
        path={`${at}/${point}/efficiency`}
        onChange={(efficiency) => set(point, { [point]: { ...value[point], efficiency } })}
      />
      at
      <NumberField
        label={`Load share, ${point === "part_load" ? "part load" : "full load"}`}
        as="share"
        unit="% load"
        width="w-14"
        value={value[point].load_share}
        path={`${at}/${point}/load_share`}
        onChange={(load_share) => set(point, { [point]: { ...value[point], load_share } })}
      />
    </Row>
  ));
}

export function IdleField({ value, label, at, set }: Props) {
  return (
    <NumberField
      label={`${label} idle watts`}
      unit="W"
      value={value.idle_w}
      path={`${at}/idle_w`}
      onChange={(idle_w) => set("idle_w", { idle_w })}
    />
  );
}

export function SleepRow({ value, label, at, set }: Props) {
  const { sleep } = value;
  return (
    <>
      <Row name="Sleeps" help="search mode, while little is asked">
        <input
          type="checkbox"
          className="size-4 accent-river"
          aria-label={`${label} has a sleep mode`}
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
              onChange={(threshold_w) =>
                set("sleep threshold", { sleep: { ...sleep, threshold_w } })
              }
            />
          </>
        ) : null}
      </Row>
      <ResetsRow value={value.resets} label={label} set={set} />
    </>
  );
}
