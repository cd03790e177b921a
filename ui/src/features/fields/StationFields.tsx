import type { ReactNode } from "react";
import { NumberField } from "../../editor/NumberField";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import { Tick } from "../../ui/Tick";
import { boundTo, type FieldsProps, type StationFigures } from "./fields";

type Props = FieldsProps<StationFigures> & {
  /** How the chemistry is chosen. */
  chemistry: ReactNode;
};

/** What stands on a station's label, but for its outlets and inputs. */
export function StationFields({ value, label, at, set, chemistry }: Props) {
  const of = boundTo({ value, label, at, set });
  return (
    <>
      <Row name="Energy" help="printed; and what a test took out at its battery">
        <NumberField {...of.number("label_wh", "printed energy")} unit="Wh" />
        <NumberField
          {...of.optional("measured_wh", "measured energy")}
          unit="Wh measured"
          placeholder="not yet"
        />
      </Row>
      <Row name="Cells">
        {chemistry}
        <NumberField
          {...of.number("cells", "cells in series")}
          as="whole"
          width="w-14"
          unit="in series"
        />
      </Row>
      <Row name="All inputs take">
        <NumberField {...of.number("most_in_w", "all inputs together")} unit="W" />
      </Row>
      <p className="mt-2 border-line border-t pt-1 text-soft text-xs">
        Seldom on a label; what is usual stands here until you know better.
      </p>
      <Row name="Usable share" help="of the printed energy; its electronics keep the rest">
        <NumberField
          {...of.number("usable_share", "usable share")}
          as="share"
          unit="%"
          width="w-14"
        />
      </Row>
      <Row name="Own draw" help="its electronics, while it is on">
        <NumberField {...of.number("idle_w", "own draw")} unit="W" width="w-14" />
      </Row>
      <Row name="Switches itself off" help="0 W: never">
        below
        <NumberField
          {...of.number("sleeps_below_w", "switches off below")}
          unit="W, after"
          width="w-14"
        />
        <NumberField
          {...of.number("sleeps_after_h", "switches off after")}
          as="hours"
          width="w-20"
        />
      </Row>
      <Row name="Pass-through" help="charges and runs its loads together">
        <Tick
          label={`${label}: pass-through`}
          checked={value.pass_through}
          onChange={(pass_through) => set("pass-through", { pass_through })}
        />
      </Row>
      <Row name="When the mains fails" help="its AC sockets, while mains passes through">
        <Choose
          label={`${label}: changeover`}
          value={value.changeover}
          options={[
            ["unknown", "not known"],
            ["none", "no break"],
            ["break", "a short break"],
          ]}
          onChange={(changeover) => set("changeover", { changeover })}
        />
      </Row>
      <Row name="Charging" help="what is kept of it, and where it slows down">
        <NumberField
          {...of.number("charge_efficiency", "charging efficiency")}
          as="share"
          unit="% kept"
          width="w-14"
        />
        <NumberField
          {...of.number("taper_from", "slower from")}
          as="share"
          unit="% on slower"
          width="w-14"
        />
      </Row>
    </>
  );
}
