import type { BenchReading } from "../../api/types";
import { clock, quantity } from "../../lib/format";

/** Kinds that are measured; a look is told, not measured. */
export type Kind = Exclude<NonNullable<BenchReading["kind"]>, "look">;
export type Look = Extract<BenchReading, { kind?: "look" }>;

export const isLook = (reading: BenchReading): reading is Look => reading.kind === "look";

/** What a reading is called. */
export const titleOf = (reading: BenchReading) =>
  isLook(reading) ? "From here on" : KINDS[reading.kind ?? "volts"].title;

/** A number of a reading; `may` it be left out. */
interface NumberSpec {
  key: string;
  name: string;
  unit: string;
  as?: "hours" | "share";
  may?: boolean;
}

/** A choice of a reading; the first counts until another is chosen. */
interface ChoiceSpec {
  key: string;
  name: string;
  options: readonly (readonly [string, string])[];
}

interface KindSpec {
  title: string;
  how: string;
  numbers: readonly NumberSpec[];
  choices?: readonly ChoiceSpec[];
}

const HEATED: ChoiceSpec = {
  key: "heated",
  name: "Its heater",
  options: [
    ["none", "it has none"],
    ["on", "on"],
    ["off", "off"],
  ],
};

/** What each kind of reading asks for, in the order that it is read off. */
export const KINDS: Record<Kind, KindSpec> = {
  volts: {
    title: "Volts",
    how: "At the terminals or in the plug, before anything is plugged in.",
    numbers: [{ key: "volts", name: "Volts", unit: "V" }],
  },
  polarity: {
    title: "Polarity",
    how: "Red lead where plus should be: no minus sign on the meter.",
    numbers: [],
    choices: [
      {
        key: "found",
        name: "Plus is",
        options: [
          ["as labelled", "where the label has it"],
          ["reversed", "on the other side"],
        ],
      },
    ],
  },
  rested: {
    title: "Rested volts",
    how: "At its posts, nothing connected for some hours.",
    numbers: [
      { key: "volts", name: "Volts", unit: "V" },
      { key: "rested_h", name: "Rested for", unit: "", as: "hours" },
    ],
  },
  idle: {
    title: "Idle draw",
    how: "Amps into it, switched on with nothing behind it, and the volts there.",
    numbers: [
      { key: "amps", name: "Amps in", unit: "A" },
      { key: "volts", name: "Volts in", unit: "V" },
    ],
  },
  power: {
    title: "Watts",
    how: "While it runs, as it runs most of the time.",
    numbers: [
      { key: "watts", name: "Running", unit: "W" },
      { key: "start_w", name: "Starting", unit: "W", may: true },
    ],
    choices: [
      {
        key: "holds_peaks",
        name: "The meter",
        options: [
          ["", "has no inrush or peak function"],
          ["yes", "holds the inrush"],
        ],
      },
      HEATED,
    ],
  },
  energy: {
    title: "Energy over hours",
    how: "What a plug meter or shunt counted, over a night or longer.",
    numbers: [
      { key: "wh", name: "Energy", unit: "Wh" },
      { key: "hours", name: "In", unit: "", as: "hours" },
    ],
    choices: [HEATED],
  },
  lasted: {
    title: "Watts from hours",
    how: "The charge on the display or shunt before and after, and the hours between.",
    numbers: [
      { key: "from_charge", name: "From", unit: "%", as: "share", may: true },
      { key: "to_charge", name: "Down to", unit: "%", as: "share" },
      { key: "hours", name: "In", unit: "", as: "hours" },
    ],
    choices: [
      {
        key: "alone",
        name: "Else was on",
        options: [
          ["yes", "nothing"],
          ["", "all as planned"],
        ],
      },
    ],
  },
  sag: {
    title: "Sag",
    how: "At the battery's posts, just before and while the load runs.",
    numbers: [
      { key: "rest_v", name: "Before", unit: "V" },
      { key: "loaded_v", name: "Under load", unit: "V" },
      { key: "amps", name: "Amps", unit: "A" },
    ],
  },
  converter: {
    title: "Converter under load",
    how: "Output without load, then all four at the same moment.",
    numbers: [
      { key: "open_v", name: "Out, no load", unit: "V" },
      { key: "out_v", name: "Out, loaded", unit: "V" },
      { key: "out_a", name: "Amps out", unit: "A" },
      { key: "in_v", name: "Volts in", unit: "V" },
      { key: "in_a", name: "Amps in", unit: "A" },
    ],
  },
  inverter: {
    title: "Inverter under load",
    how: "Watts by a plug meter at its socket; volts at its input and amps with a clamp.",
    numbers: [
      { key: "out_w", name: "Watts out", unit: "W" },
      { key: "out_v", name: "Volts out", unit: "V", may: true },
      { key: "in_v", name: "Volts in", unit: "V" },
      { key: "in_a", name: "Amps in", unit: "A" },
    ],
  },
  heat: {
    title: "Heat",
    how: "Infrared, or the back of the hand on insulation; never bare metal, never mains.",
    numbers: [
      { key: "warm_c", name: "It is", unit: "°C" },
      { key: "minutes", name: "After", unit: "min", may: true },
    ],
    choices: [
      {
        key: "place",
        name: "At the",
        options: [
          ["fuse holder", "fuse holder"],
          ["connector", "connector"],
          ["cable", "cable"],
          ["converter or inverter", "converter or inverter"],
        ],
      },
    ],
  },
  capacity: {
    title: "Capacity test",
    how: "From full, a steady load near 0.2C (lead-acid 0.05C), with an automatic cut-off.",
    numbers: [
      { key: "ah", name: "Charge", unit: "Ah" },
      { key: "wh", name: "Energy", unit: "Wh", may: true },
      { key: "hours", name: "In", unit: "", as: "hours" },
      { key: "end_v", name: "Down to", unit: "V" },
    ],
    choices: [
      {
        key: "ended_by",
        name: "Ended by",
        options: [
          ["a cut-off", "an automatic cut-off"],
          ["an inverter", "the inverter's cut-out"],
          ["the battery", "the battery's own protection"],
          ["by hand", "hand"],
        ],
      },
    ],
  },
  station: {
    title: "From full to empty",
    how: "Wh that a meter counted at the outlet, a small steady load, nothing at its inputs.",
    numbers: [
      { key: "wh", name: "Energy", unit: "Wh" },
      { key: "hours", name: "In", unit: "", as: "hours" },
    ],
  },
  input: {
    title: "What goes in",
    how: "Volts and amps at the input, half a minute after it was joined.",
    numbers: [
      { key: "volts", name: "Volts", unit: "V" },
      { key: "amps", name: "Amps", unit: "A" },
      { key: "after_s", name: "After", unit: "s", may: true },
    ],
  },
  taper: {
    title: "Slower from",
    how: "The charge on its display when the watts at its input begin to fall.",
    numbers: [{ key: "charge", name: "Charge", unit: "%", as: "share" }],
  },
  changeover: {
    title: "Changeover",
    how: "Pull the mains while what must not stop runs.",
    numbers: [],
    choices: [
      {
        key: "went_on",
        name: "It",
        options: [
          ["yes", "went on"],
          ["", "stopped or restarted"],
        ],
      },
    ],
  },
  limit: {
    title: "Near its limit",
    how: "Switch loads on one by one, until the next one trips it.",
    numbers: [
      { key: "carried_w", name: "Carried", unit: "W" },
      { key: "tripped_w", name: "Tripped at", unit: "W", may: true },
    ],
  },
};

const BOOLEANS: readonly string[] = ["went_on", "holds_peaks", "alone"];

export type Values = Readonly<Record<string, number | string>>;

/** The reading that has been typed; null while a figure is missing. */
export function readingOf(kind: Kind, subject: string, values: Values): BenchReading | null {
  const { numbers, choices = [] } = KINDS[kind];
  const found: Record<string, unknown> = { kind, subject };
  for (const { key, may } of numbers) {
    if (typeof values[key] === "number") found[key] = values[key];
    else if (!may) return null;
  }
  for (const { key, options } of choices) {
    const said = values[key] ?? options[0]?.[0];
    found[key] = BOOLEANS.includes(key) ? said === "yes" : said;
  }
  if (typeof values.air_c === "number") found.air_c = values.air_c;
  for (const key of ["instrument", "note"]) if (values[key]) found[key] = values[key];
  return found as unknown as BenchReading;
}

/** What was typed of a reading, in one line. */
export function inOneLine(reading: BenchReading): string {
  if (isLook(reading)) {
    const on = reading.on ? `${reading.on.length} on` : "as planned";
    return `${quantity(reading.charge, "share", 2)} at ${clock(reading.clock_h)}, ${on}`;
  }
  const all = reading as unknown as Record<string, unknown>;
  const { numbers, choices = [] } = KINDS[reading.kind ?? "volts"];
  const said = numbers
    .filter(({ key }) => typeof all[key] === "number" && !(key === "tripped_w" && !all[key]))
    .map(({ key, unit, as }) =>
      as === "share"
        ? quantity(all[key] as number, "share")
        : `${all[key]} ${as === "hours" ? "h" : unit}`,
    );
  const chosen = choices.map(({ key, options }) => {
    const value = typeof all[key] === "boolean" ? (all[key] ? "yes" : "") : all[key];
    return options.find(([one]) => one === value)?.[1];
  });
  return [...said, ...chosen.filter(Boolean)].join(", ");
}

/** The time of day, at the quarter of an hour nearest to it: just before midnight that is 0. [h] */
export function nearestQuarter(now: Date): number {
  return (Math.round((now.getHours() + now.getMinutes() / 60) * 4) / 4) % 24;
}
