import type { Charger } from "../../api/types";
import { NumberField } from "../../editor/NumberField";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import { boundTo, type FieldsProps } from "./fields";

export type ChargerFigures = Omit<Charger, "provenance" | "shelf" | "shares_with">;

const KINDS = [
  "mains charger",
  "DC-DC charger",
  "MPPT controller",
  "PWM controller",
  "bench supply",
  "balance charger",
  "alternator",
];
const PROFILES = ["lithium", "AGM", "gel", "flooded", "set by hand"];

interface ChargerFieldsProps extends FieldsProps<ChargerFigures> {
  /** Kinds that can be fed here; of one on the shelf all. */
  kinds?: readonly string[];
}

/** What stands on a charger's label. */
export function ChargerFields({ value, label, at, set, kinds = KINDS }: ChargerFieldsProps) {
  const of = boundTo({ value, label, at, set });
  const window = (end: "least_v" | "most_v", what: string, unit: string) => (
    <NumberField
      label={`${label}: ${what}`}
      width="w-16"
      unit={unit}
      value={value.accepts[end]}
      path={`${at}/accepts/${end}`}
      onChange={(volts) => set(what, { accepts: { ...value.accepts, [end]: volts } })}
    />
  );
  return (
    <>
      <Row name="Kind">
        <Choose<string>
          label={`${label}: kind`}
          value={value.kind}
          options={(kinds.includes(value.kind) ? kinds : [value.kind, ...kinds]).map(
            (one) => [one, one] as const,
          )}
          onChange={(kind) => set("kind", { kind: kind as Charger["kind"] })}
        />
      </Row>
      <Row name="Profile" help="the setting for the battery's chemistry">
        <Choose<string>
          label={`${label}: profile`}
          value={value.profile}
          options={PROFILES.map((one) => [one, one] as const)}
          onChange={(profile) => set("profile", { profile: profile as Charger["profile"] })}
        />
      </Row>
      <Row name="Gives" help="into the battery; volts empty: usual for the profile">
        <NumberField {...of.number("amps", "amps")} width="w-16" unit="A, up to" />
        <NumberField
          {...of.optional("hold_v", "charge volts")}
          width="w-16"
          unit="V"
          placeholder="usual"
        />
      </Row>
      {value.kind === "balance charger" ? (
        <Row name="For packs of at most" help="cells in series">
          <NumberField
            {...of.optional("most_cells", "most cells")}
            as="whole"
            width="w-14"
            unit="cells"
            placeholder="unsaid"
          />
        </Row>
      ) : null}
      <Row name="At most" help="watts out of it, where printed">
        <NumberField
          {...of.optional("most_w", "most watts")}
          width="w-20"
          unit="W"
          placeholder="unsaid"
        />
      </Row>
      <Row name="Accepts" help="at its input; AC for a mains charger">
        {window("least_v", "least input volts", "to")}
        {window("most_v", "most input volts", "V")}
      </Row>
      <Row name="Efficiency, own draw">
        <NumberField {...of.number("efficiency", "efficiency")} as="share" unit="%" width="w-14" />
        <NumberField {...of.number("idle_w", "own draw")} unit="W" width="w-14" />
      </Row>
      <Row name="Stops below 0 °C">
        <Choose
          label={`${label}: stops below freezing`}
          value={value.cold_cut}
          options={[
            ["unknown", "not known"],
            ["yes", "yes, its maker says so"],
            ["no", "no"],
          ]}
          onChange={(cold_cut) => set("cold cut-off", { cold_cut })}
        />
      </Row>
      <details className="my-1">
        <summary className="text-river text-sm">Rarely on the label</summary>
        <Row name="Once full" help="volts it goes on holding">
          <NumberField
            {...of.optional("float_v", "float volts")}
            width="w-16"
            unit="V"
            placeholder="none"
          />
        </Row>
        <Row name="Temperature compensation" help="volts that follow the battery's temperature">
          <Choose
            label={`${label}: temperature compensation`}
            value={value.compensates}
            options={[
              ["unknown", "not known"],
              ["yes", "on"],
              ["no", "off, or none"],
            ]}
            onChange={(compensates) => set("temperature compensation", { compensates })}
          />
        </Row>
      </details>
    </>
  );
}
