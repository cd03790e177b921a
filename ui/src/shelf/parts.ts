/** Between parts of the shelf and the copies that designs keep. Pure. */

import type { Bank, Design, KeptPart, PartKind, ShelfPart, Stage } from "../api/types";
import { quantity } from "../units/format";

export const KINDS: Record<PartKind, { one: string; many: string }> = {
  battery: { one: "battery", many: "Batteries" },
  inverter: { one: "inverter", many: "Inverters" },
  converter: { one: "converter", many: "Converters" },
};

/** Its label in one line. */
export function describe(part: ShelfPart): string {
  if (part.kind === "battery") {
    const { volts, ah, chemistry, bms_a } = part.figures;
    const gives = bms_a ? ` · gives ${quantity(bms_a, "A")}` : "";
    return `${quantity(volts, "V")} · ${quantity(ah, "Ah")} · ${chemistry.toUpperCase()}${gives}`;
  }
  const { accepts } = part.figures;
  const window = `${quantity(accepts.least_v, "V")} to ${quantity(accepts.most_v, "V")}`;
  if (part.kind === "inverter") {
    const { continuous_w, waveform, idle_w } = part.figures;
    return `${quantity(continuous_w, "W")} · ${waveform} · from ${window} · idles ${quantity(idle_w, "W")}`;
  }
  const { topology, set_v, continuous_a } = part.figures;
  return `${topology} · ${quantity(set_v, "V")} ${quantity(continuous_a, "A")} · from ${window}`;
}

const HERE_ONLY = new Set([
  "id",
  "name",
  "kind",
  "rail",
  "switched",
  "cable_mohm",
  "provenance",
  "shelf",
  "parallel",
]);

type Copied = Bank["battery"] | Exclude<Stage, { kind: "feed" }>;

/** The figures of a design's copy, without what belongs to its place. */
export const figuresOf = (copy: Copied) =>
  Object.fromEntries(
    Object.entries(copy).filter(([key]) => !HERE_ONLY.has(key)),
  ) as unknown as ShelfPart["figures"];

/** What a design holds of a part at a store or stage. */
export function copyAt(design: Design, subject: string): { kind: PartKind; copy: Copied } | null {
  const store = design.stores.find((one) => one.id === subject);
  if (store) return { kind: "battery", copy: store.battery };
  const stage = design.stages.find((one) => one.id === subject);
  return stage && stage.kind !== "feed" ? { kind: stage.kind, copy: stage } : null;
}

/** A part's figures into a store or stage, with what they are a copy of. */
export function take(design: Design, subject: string, kept: KeptPart): Design {
  const { part, id, revision, spread_from } = kept;
  const copied = {
    ...part.figures,
    name: part.name,
    provenance: spread_from,
    shelf: { part: id, revision },
  };
  return {
    ...design,
    stores: design.stores.map((store) =>
      store.id === subject && part.kind === "battery"
        ? { ...store, battery: { ...store.battery, ...copied } as Bank["battery"] }
        : store,
    ),
    stages: design.stages.map((stage) =>
      stage.id === subject && stage.kind === part.kind ? ({ ...stage, ...copied } as Stage) : stage,
    ),
  };
}

/** Figures that differ, by name. */
export function differing(a: ShelfPart["figures"], b: ShelfPart["figures"]): string[] {
  const left = a as unknown as Record<string, unknown>;
  const right = b as unknown as Record<string, unknown>;
  return Object.keys({ ...left, ...right })
    .filter((key) => JSON.stringify(left[key] ?? null) !== JSON.stringify(right[key] ?? null))
    .map((key) => key.replaceAll("_", " "));
}
