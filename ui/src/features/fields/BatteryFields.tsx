import type { ReactNode } from "react";
import { NumberField } from "../../editor/NumberField";
import { number } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import type { BatteryFigures, FieldsProps } from "./fields";
import { ResetsRow } from "./StageRows";

type Props = FieldsProps<BatteryFigures> & {
  /** How the chemistry is chosen: in a design that changes the reserve too. */
  chemistry: ReactNode;
};

const MORE = [
  ["bms_peak_a", "BMS peak current", "A peak", "unsaid"],
  ["low_v", "Protection opens at", "V", "by chemistry"],
  ["discharge_from_c", "Does not discharge below", "°C", "unsaid"],
  ["cells", "Cells in series", "cells", "by volts"],
  ["most_series", "Maker allows in series", "batteries", "unsaid"],
  ["most_parallel", "Maker allows in parallel", "batteries", "unsaid"],
  ["resistance_mohm", "Inner resistance", "mΩ", "by chemistry"],
  ["peukert", "Peukert exponent", "", "by chemistry"],
] as const;

const WHOLE: readonly string[] = ["cells", "most_series", "most_parallel"];

/** What stands on a battery's label; what labels seldom say folds below. */
export function BatteryFields({ value, label, at, set, chemistry }: Props) {
  return (
    <>
      <Row name="Chemistry">{chemistry}</Row>
      <Row name="Volts and charge" help="of one battery, as labelled">
        <NumberField
          label={`${label} volts`}
          unit="V"
          value={value.volts}
          path={`${at}/volts`}
          onChange={(volts) => set("volts", { volts })}
        />
        <NumberField
          label={`${label} Ah`}
          unit="Ah"
          value={value.ah}
          path={`${at}/ah`}
          onChange={(ah) => set("ah", { ah })}
        />
      </Row>
      <Row name="Continuous current" help="limit of its BMS; empty if it has none">
        <NumberField
          label="BMS continuous current"
          unit="A"
          placeholder="none"
          value={value.bms_a ?? null}
          path={`${at}/bms_a`}
          onChange={(bms_a) => set("BMS", { bms_a })}
          onClear={() => set("BMS", { bms_a: null })}
        />
      </Row>
      <Row name="Below 0 °C" help="what prevents charging below 0 °C">
        <Choose
          label={`${label}: charge protection`}
          value={value.cold_charge ?? "unknown"}
          options={[
            ["unknown", "not known"],
            ["cut-off", "low-temperature cut-off"],
            ["heater", "heater"],
          ]}
          onChange={(cold_charge) => set("charge protection", { cold_charge })}
        />
      </Row>
      <details className="my-1">
        <summary className="text-river text-sm">Rarely on the label</summary>
        {MORE.map(([field, name, unit, otherwise]) => (
          <Row key={field} name={name}>
            <NumberField
              label={name}
              {...(WHOLE.includes(field) ? { as: "whole" as const } : {})}
              unit={unit}
              width="w-24"
              placeholder={otherwise}
              value={value[field] ?? null}
              path={`${at}/${field}`}
              onChange={(given) => set(name, { [field]: given })}
              onClear={() => set(name, { [field]: null })}
            />
          </Row>
        ))}
        {value.curve ? (
          <Row name="Curve of its own" help="rested volts by charge, measured">
            <span className="text-sm" data-part="curve">
              {value.curve.map((one) => `${number(one.volts, 4)} V`).join(" · ")}
            </span>
            <Button look="quiet" onClick={() => set("curve", { curve: null })}>
              Use that of its chemistry
            </Button>
          </Row>
        ) : null}
        <ResetsRow value={value.resets} label={label} set={set} />
      </details>
    </>
  );
}
