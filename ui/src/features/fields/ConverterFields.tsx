import { NumberField } from "../../editor/NumberField";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import type { ConverterFigures, FieldsProps } from "./fields";
import { AcceptsRow, ResetsRow } from "./StageRows";

type Props = FieldsProps<ConverterFigures>;

/** What stands on a converter's label. */
export function ConverterFields({ value, label, at, set }: Props) {
  return (
    <>
      <Row name="Kind">
        <Choose
          label={`${label}: kind`}
          value={value.topology}
          options={[
            ["buck", "steps down (buck)"],
            ["boost", "steps up (boost)"],
            ["buck-boost", "up and down (buck-boost)"],
            ["linear", "linear"],
          ]}
          onChange={(topology) => set("kind", { topology })}
        />
      </Row>
      <AcceptsRow stage={value} label={label} at={at} set={set} />
      <Row name="Gives">
        <NumberField
          label={`${label}: volts out`}
          width="w-16"
          unit="V"
          value={value.set_v}
          path={`${at}/set_v`}
          onChange={(set_v) => set("volts out", { set_v })}
        />
        <NumberField
          label={`${label}: continuous amps`}
          width="w-16"
          unit="A"
          value={value.continuous_a}
          path={`${at}/continuous_a`}
          onChange={(continuous_a) => set("amps", { continuous_a })}
        />
        <NumberField
          label={`${label}: peak amps`}
          width="w-16"
          unit="A peak"
          placeholder="unsaid"
          value={value.peak_a ?? null}
          path={`${at}/peak_a`}
          onChange={(peak_a) => set("peak amps", { peak_a })}
          onClear={() => set("peak amps", { peak_a: null })}
        />
      </Row>
      <Row name="Measured limit" help="amps at which it was seen to limit itself">
        <NumberField
          label={`${label}: measured limit`}
          width="w-16"
          unit="A"
          placeholder="not measured"
          value={value.measured_a ?? null}
          path={`${at}/measured_a`}
          onChange={(measured_a) => set("measured limit", { measured_a })}
          onClear={() => set("measured limit", { measured_a: null })}
        />
      </Row>
      <ResetsRow value={value.resets} label={label} set={set} />
      <Row name="Amps hold" help="the label names the ambient they hold at">
        <input
          type="checkbox"
          className="size-4 accent-river"
          aria-label={`${label}: amps documented`}
          checked={value.documented}
          onChange={(event) => set("documented", { documented: event.target.checked })}
        />
        up to
        <NumberField
          label={`${label}: knee`}
          width="w-14"
          unit="°C, then"
          value={value.knee_c}
          path={`${at}/knee_c`}
          onChange={(knee_c) => set("knee", { knee_c })}
        />
        <NumberField
          label={`${label}: derating`}
          as="share"
          width="w-14"
          unit="% less a °C"
          value={value.derate_per_c}
          path={`${at}/derate_per_c`}
          onChange={(derate_per_c) => set("derating", { derate_per_c })}
        />
      </Row>
      <Row name="Efficiency, own draw">
        <NumberField
          label={`${label}: efficiency`}
          as="share"
          unit="%"
          width="w-14"
          value={value.full_load.efficiency}
          path={`${at}/full_load/efficiency`}
          onChange={(efficiency) =>
            set("efficiency", { full_load: { ...value.full_load, efficiency } })
          }
        />
        <NumberField
          label={`${label}: own draw`}
          unit="W"
          width="w-14"
          value={value.quiescent_w}
          path={`${at}/quiescent_w`}
          onChange={(quiescent_w) => set("own draw", { quiescent_w })}
        />
      </Row>
      <Row name="At part load" help="efficiency there, if the label says it">
        <NumberField
          label={`${label}: part-load efficiency`}
          as="share"
          unit="% at"
          width="w-14"
          placeholder="unsaid"
          value={value.part_load?.efficiency ?? null}
          path={`${at}/part_load/efficiency`}
          onChange={(efficiency) =>
            set("part-load efficiency", {
              part_load: { load_share: value.part_load?.load_share ?? 0.3, efficiency },
            })
          }
          onClear={() => set("part-load efficiency", { part_load: null })}
        />
        {value.part_load ? (
          <NumberField
            label={`${label}: part load`}
            as="share"
            unit="% load"
            width="w-14"
            value={value.part_load.load_share}
            path={`${at}/part_load/load_share`}
            onChange={(load_share) =>
              set("part load", {
                part_load: { efficiency: value.part_load?.efficiency ?? 0.9, load_share },
              })
            }
          />
        ) : null}
      </Row>
      <Row name="Output droops" help="at its continuous amps">
        <NumberField
          label={`${label}: droop`}
          unit="V"
          width="w-14"
          value={value.droop_v}
          path={`${at}/droop_v`}
          onChange={(droop_v) => set("droop", { droop_v })}
        />
      </Row>
    </>
  );
}
