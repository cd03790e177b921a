import type { ReactNode } from "react";
import { NumberField } from "../../editor/NumberField";
import { Row } from "../../ui/Row";
import { Tick } from "../../ui/Tick";
import type { FieldsProps, StationFigures } from "./fields";

type Props = FieldsProps<StationFigures> & {
  /** How the chemistry is chosen. */
  chemistry: ReactNode;
};

/** What stands on a station's label, but for its outlets and inputs. */
export function StationFields({ value, label, at, set, chemistry }: Props) {
  return (
    <>
      <Row name="Energy" help="printed; and what a test took out at its battery">
        <NumberField
          label={`${label}: printed energy`}
          unit="Wh"
          value={value.label_wh}
          path={`${at}/label_wh`}
          onChange={(label_wh) => set("energy", { label_wh })}
        />
        <NumberField
          label={`${label}: measured energy`}
          unit="Wh measured"
          placeholder="not yet"
          value={value.measured_wh ?? null}
          path={`${at}/measured_wh`}
          onChange={(measured_wh) => set("measured energy", { measured_wh })}
          onClear={() => set("measured energy", { measured_wh: null })}
        />
      </Row>
      <Row name="Cells">
        {chemistry}
        <NumberField
          label={`${label}: cells in series`}
          as="whole"
          width="w-14"
          unit="in series"
          value={value.cells}
          path={`${at}/cells`}
          onChange={(cells) => set("cells", { cells })}
        />
      </Row>
      <Row name="Of it comes out" help="the rest it keeps to itself">
        <NumberField
          label={`${label}: usable share`}
          as="share"
          unit="%"
          width="w-14"
          value={value.usable_share}
          path={`${at}/usable_share`}
          onChange={(usable_share) => set("usable share", { usable_share })}
        />
      </Row>
      <Row name="Own draw" help="its electronics, while it is on">
        <NumberField
          label={`${label}: own draw`}
          unit="W"
          width="w-14"
          value={value.idle_w}
          path={`${at}/idle_w`}
          onChange={(idle_w) => set("own draw", { idle_w })}
        />
      </Row>
      <Row name="Switches itself off" help="0 W: never">
        below
        <NumberField
          label={`${label}: switches off below`}
          unit="W, after"
          width="w-14"
          value={value.sleeps_below_w}
          path={`${at}/sleeps_below_w`}
          onChange={(sleeps_below_w) => set("switch-off", { sleeps_below_w })}
        />
        <NumberField
          label={`${label}: switches off after`}
          as="hours"
          width="w-20"
          value={value.sleeps_after_h}
          path={`${at}/sleeps_after_h`}
          onChange={(sleeps_after_h) => set("switch-off time", { sleeps_after_h })}
        />
      </Row>
      <Row name="Pass-through" help="charges and runs its loads together">
        <Tick
          label={`${label}: pass-through`}
          checked={value.pass_through}
          onChange={(pass_through) => set("pass-through", { pass_through })}
        />
      </Row>
      <Row name="All inputs take">
        <NumberField
          label={`${label}: all inputs together`}
          unit="W"
          value={value.most_in_w}
          path={`${at}/most_in_w`}
          onChange={(most_in_w) => set("all inputs", { most_in_w })}
        />
        <NumberField
          label={`${label}: charging efficiency`}
          as="share"
          unit="% kept"
          width="w-14"
          value={value.charge_efficiency}
          path={`${at}/charge_efficiency`}
          onChange={(charge_efficiency) => set("charging efficiency", { charge_efficiency })}
        />
        <NumberField
          label={`${label}: slower from`}
          as="share"
          unit="% on slower"
          width="w-14"
          value={value.taper_from}
          path={`${at}/taper_from`}
          onChange={(taper_from) => set("taper", { taper_from })}
        />
      </Row>
    </>
  );
}
