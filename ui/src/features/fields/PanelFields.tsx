import type { Sun } from "../../api/types";
import { NumberField } from "../../editor/NumberField";
import { Row } from "../../ui/Row";
import { boundTo, type FieldsProps } from "./fields";

type Panel = Sun["panel"];

/** What stands on the label of a solar panel. */
export function PanelFields({ value, label, at, set }: FieldsProps<Panel>) {
  const of = boundTo({ value, label, at, set });
  return (
    <>
      <Row name="One panel">
        <NumberField {...of.number("watts", "watts")} width="w-16" unit="W" />
      </Row>
      <Row name="Open, at most power" help="Voc and Vmp of its label">
        <NumberField {...of.number("voc_v", "open volts")} width="w-16" unit="V" />
        <NumberField {...of.number("vmp_v", "volts at most power")} width="w-16" unit="V" />
      </Row>
      <Row name="Shorted, at most power" help="Isc and Imp of its label">
        <NumberField {...of.number("isc_a", "shorted amps")} width="w-16" unit="A" />
        <NumberField {...of.number("imp_a", "amps at most power")} width="w-16" unit="A" />
      </Row>
      <Row name="Volts in the cold" help="change of Voc a degree; empty: the usual table">
        <NumberField
          {...of.optional("voc_per_c", "temperature coefficient")}
          width="w-16"
          unit="% a °C"
          as="share"
          signed
          placeholder="table"
        />
      </Row>
    </>
  );
}
