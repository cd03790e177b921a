import { NumberField } from "../../editor/NumberField";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import { boundTo, type ConverterFigures, type FieldsProps } from "./fields";
import { AcceptsRow, ResetsRow } from "./StageRows";

type Props = FieldsProps<ConverterFigures>;

/** What stands on a converter's label. */
export function ConverterFields({ value, label, at, set }: Props) {
  const of = boundTo({ value, label, at, set });
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
        <NumberField {...of.number("set_v", "volts out")} width="w-16" unit="V" />
        <NumberField {...of.number("continuous_a", "continuous amps")} width="w-16" unit="A" />
        <NumberField
          {...of.optional("peak_a", "peak amps")}
          width="w-16"
          unit="A peak"
          placeholder="unsaid"
        />
      </Row>
      <Row name="Measured limit" help="amps at which it was seen to limit itself">
        <NumberField
          {...of.optional("measured_a", "measured limit")}
          width="w-16"
          unit="A"
          placeholder="not measured"
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
        <NumberField {...of.number("knee_c", "knee")} width="w-14" unit="°C, then" />
        <NumberField
          {...of.number("derate_per_c", "derating")}
          as="share"
          width="w-14"
          unit="% less a °C"
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
        <NumberField {...of.number("quiescent_w", "own draw")} unit="W" width="w-14" />
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
        <NumberField {...of.number("droop_v", "droop")} unit="V" width="w-14" />
      </Row>
    </>
  );
}
