/** Wiring in the words of the trade. */

import type { CableRow, Reference, SizeRow, Wire } from "../api/types";

export const INSTALLED = (["in conduit or enclosed", "bundled", "in free air"] as const).map(
  (one) => [one, one] as const,
);

export const TAKE_OFFS = (["from both ends", "from one battery", "bus bars"] as const).map(
  (one) => [one, one] as const,
);

export const SCHOOLS = [
  ["building wire", "building wire, in conduit (AWG)"],
  ["boat and vehicle", "boat and vehicle (AWG)"],
  ["metric boat and vehicle", "boat and vehicle (mm²)"],
] as const;

export const INSULATIONS = [
  ["", "not marked: 70 °C (building wire 75)"],
  ["60", "60 °C"],
  ["70", "70 °C"],
  ["75", "75 °C"],
  ["80", "80 °C"],
  ["90", "90 °C"],
  ["105", "105 °C"],
  ["125", "125 °C"],
] as const;

export const sized = (size: Pick<SizeRow, "name" | "leads">): string =>
  `${size.leads > 1 ? `${size.leads} × ` : ""}${size.name}`;

/** The conductors to choose from: those of the design's system, and the one that is chosen. */
export const sizesFor = (
  reference: Reference,
  system: "metric" | "AWG",
  chosen: SizeRow | null,
): (readonly [string, string])[] => [
  ["", "not chosen"],
  ...reference.sizes
    .filter((one) => one.system === system || one.name === chosen?.name)
    .map((one) => [one.name, `${one.name} · ${one.other}`] as const),
];

export const connectorsFor = (reference: Reference): (readonly [string, string])[] => [
  ["", "not chosen"],
  ...reference.connectors.map((one) => [one.key, one.name] as const),
];

export const fuseKindsFor = (reference: Reference): (readonly [string, string])[] => [
  ["", "of no stated kind"],
  ...reference.fuse_kinds.map((one) => [one.key, one.name] as const),
];

export const connectorName = (reference: Reference, key: string | null): string =>
  reference.connectors.find((one) => one.key === key)?.name ?? "";

/** What a suggestion offers, in a few words. */
export function proposalOf(row: CableRow): string {
  const parts = [
    row.chosen || !row.proposed ? "" : sized(row.proposed),
    row.fuse || !row.proposed_fuse
      ? ""
      : `${row.proposed_fuse.amps} A ${row.proposed_fuse.kind_name}`,
  ];
  return parts.filter(Boolean).join(", ");
}

/** Size and fuse of a run; in brackets what is only proposed. */
export function wired(wire: Wire): string[] {
  const size = wire.chosen ?? wire.proposed;
  const fuse = wire.fuse_a ?? wire.proposed_fuse_a;
  const both = !wire.chosen && !wire.fuse_a && size && fuse;
  return [
    size ? (both ? `(${sized(size)}` : bracketed(sized(size), wire.chosen === null)) : "",
    fuse ? (both ? `${fuse} A)` : bracketed(`${fuse} A`, wire.fuse_a === null)) : "",
  ].filter(Boolean);
}

const bracketed = (text: string, proposed: boolean) => (proposed ? `(${text})` : text);
