import type { Have } from "../../api/types";
import { LabelEntry } from "../../editor/LabelEntry";
import { NumberField } from "../../editor/NumberField";
import { quantity } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";

const CHEMISTRIES = [
  ["lfp", "LFP"],
  ["nmc", "Li-ion"],
  ["agm", "AGM, gel"],
  ["flooded", "flooded lead-acid"],
] as const;

type Battery = Extract<Have, { have: "battery" }>["battery"];
type Station = Extract<Have, { have: "station" | "grown" }>;
type StationFigures = NonNullable<Station["figures"]>;

const count = (n: number, word: string) => `${n} ${word}${n === 1 ? "" : "s"}`;
const named = (all: readonly { name?: string }[]) => all.map((one) => one.name).join(", ");

interface FieldsProps<T> {
  have: T;
  onChange: (have: Have) => void;
}

/** The fields of what somebody has. */
export function BeginFields({ have, onChange }: FieldsProps<Have>) {
  const number = (
    key: string,
    label: string,
    unit: string,
    rest: { as?: "hours" | "whole" } = {},
  ) => (
    <NumberField
      label={label}
      unit={unit}
      width="w-20"
      applies="typed"
      value={(have as unknown as Record<string, number>)[key] ?? 0}
      path={`/have/${key}`}
      onChange={(value) => onChange({ ...have, [key]: value } as Have)}
      {...rest}
    />
  );
  switch (have.have) {
    case "nothing":
      return (
        <Row name="It should last" help="without recharging; 2 d is two days">
          <NumberField
            label="It should last"
            as="hours"
            width="w-24"
            value={have.goal_h}
            path="/have/goal_h"
            onChange={(goal_h) => onChange({ ...have, goal_h })}
          />
        </Row>
      );
    case "battery":
      return (
        <>
          <LabelEntry
            kind="battery"
            onUse={(figures) =>
              onChange({ ...have, battery: { ...have.battery, ...figures } as Battery })
            }
          />
          <BatteryRows
            battery={have.battery}
            onChange={(battery) => onChange({ ...have, battery })}
          />
          <Row name="How many">
            {number("series", "In series", "in series ×", { as: "whole" })}
            {number("parallel", "In parallel", "in parallel", { as: "whole" })}
          </Row>
        </>
      );
    case "station":
      return <StationRows have={have} onChange={onChange} />;
    case "grown":
      return (
        <>
          <StationRows have={have} onChange={onChange} />
          {have.figures ? null : (
            <Row name="Its DC input" help="volts, amps, watts">
              {number("least_v", "Input from volts", "to")}
              {number("most_v", "Input up to volts", "V")}
              {number("input_a", "Input amps", "A")}
              {number("input_w", "Input watts", "W")}
            </Row>
          )}
          <BatteryRows
            battery={have.battery}
            onChange={(battery) => onChange({ ...have, battery })}
          />
        </>
      );
    case "packs":
      return (
        <>
          <Row name="Their class">
            <Choose<string>
              label="Class of the packs"
              value={String(have.volts)}
              options={[
                ["18", "18 V (20 V full)"],
                ["36", "36 V (40 V full)"],
                ["48", "48 V bike pack"],
              ]}
              onChange={(volts) => onChange({ ...have, volts: Number(volts) as 18 | 36 | 48 })}
            />
            {number("ah", "Ah of a pack", "Ah each")}
          </Row>
          <Row name="How many">
            {number("series", "In series", "in series ×", { as: "whole" })}
            {number("parallel", "In parallel", "in parallel", { as: "whole" })}
          </Row>
          <p className="text-sm text-watch">
            In series only packs that are equally charged; measure polarity before you plug in.
          </p>
        </>
      );
    case "vehicle":
      return (
        <Row name="Its socket" help="its fuse: 10 A is usual">
          <Choose<string>
            label="Volts of the vehicle"
            value={String(have.volts)}
            options={[
              ["12", "12 V"],
              ["24", "24 V"],
            ]}
            onChange={(volts) => onChange({ ...have, volts: volts === "24" ? 24 : 12 })}
          />
          {number("amps", "Amps of the socket", "A")}
        </Row>
      );
    default:
      return (
        <>
          <Row name="The backup box" help="its label; its output must be the router’s volts">
            {number("wh", "Wh of the box", "Wh,")}
            {number("volts", "Volts of the box", "V")}
            {number("amps", "Amps of the box", "A")}
          </Row>
          <Row name="The router takes" help="measured: often a third of its label">
            {number("router_w", "Watts of the router", "W")}
          </Row>
          <Row name="Run through" help="an outage of so long">
            <NumberField
              label="Length of the outage"
              as="hours"
              width="w-24"
              value={have.outage_h}
              path="/have/outage_h"
              onChange={(outage_h) => onChange({ ...have, outage_h })}
            />
          </Row>
        </>
      );
  }
}

interface BatteryRowsProps {
  battery: Battery;
  onChange: (battery: Battery) => void;
}

function BatteryRows({ battery, onChange }: BatteryRowsProps) {
  return (
    <Row name="The battery’s label">
      <Choose
        label="Chemistry"
        value={battery.chemistry}
        options={CHEMISTRIES}
        onChange={(chemistry) => {
          const lithium = chemistry === "lfp" || chemistry === "nmc";
          onChange({
            ...battery,
            chemistry,
            bms_a: lithium ? (battery.bms_a ?? battery.ah) : null,
          });
        }}
      />
      <NumberField
        label="Volts of the battery"
        unit="V"
        width="w-20"
        applies="typed"
        value={battery.volts}
        path="/have/battery/volts"
        onChange={(volts) => onChange({ ...battery, volts })}
      />
      <NumberField
        label="Ah of the battery"
        unit="Ah"
        width="w-20"
        applies="typed"
        value={battery.ah}
        path="/have/battery/ah"
        onChange={(ah) => onChange({ ...battery, ah })}
      />
      <NumberField
        label="Amps it gives"
        unit="A at most"
        width="w-20"
        applies="typed"
        placeholder="unsaid"
        value={battery.bms_a ?? null}
        path="/have/battery/bms_a"
        onChange={(bms_a) => onChange({ ...battery, bms_a })}
        onClear={() => onChange({ ...battery, bms_a: null })}
      />
    </Row>
  );
}

function StationRows({ have, onChange }: FieldsProps<Station>) {
  const number = (key: "wh" | "ac_w" | "surge_w" | "dc_a", label: string, unit: string) => (
    <NumberField
      label={label}
      unit={unit}
      width="w-20"
      applies="typed"
      value={have[key]}
      path={`/have/${key}`}
      onChange={(value) => onChange({ ...have, [key]: value })}
    />
  );
  const read = (figures: Record<string, unknown> | null) =>
    onChange({ ...have, figures: figures as StationFigures | null });
  if (have.figures) {
    const { label_wh, outlets = [], inputs = [] } = have.figures;
    return (
      <Row name="Its label is read">
        <span data-part="label-read">
          {quantity(label_wh ?? 0, "Wh", 4)}, {count(outlets.length, "outlet")},{" "}
          {count(inputs.length, "charge input")}: {named([...outlets, ...inputs])}
        </span>
        <Button look="quiet" onClick={() => read(null)}>
          Enter it by hand
        </Button>
      </Row>
    );
  }
  return (
    <>
      <LabelEntry kind="station" onUse={read} />
      <Row name="The station’s label">
        {number("wh", "Wh of the station", "Wh")}
        <Choose
          label="Chemistry"
          value={have.chemistry}
          options={CHEMISTRIES}
          onChange={(chemistry) => onChange({ ...have, chemistry })}
        />
      </Row>
      <Row name="Its mains sockets" help="0 W if it has none">
        {number("ac_w", "Watts of its sockets", "W,")}
        {number("surge_w", "Surge watts", "W surge")}
      </Row>
      <Row name="Its 12 V socket" help="0 A if it has none">
        {number("dc_a", "Amps of its 12 V socket", "A")}
      </Row>
    </>
  );
}
