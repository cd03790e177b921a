/** Between parts of the shelf and the copies that designs keep. Pure. */

import type {
  Bank,
  Design,
  KeptPart,
  PartKind,
  ShelfPart,
  Stage,
  Station,
  Store,
} from "../api/types";
import { quantity } from "../units/format";

export const KINDS: Record<PartKind, { one: string; many: string }> = {
  battery: { one: "battery", many: "Batteries" },
  inverter: { one: "inverter", many: "Inverters" },
  converter: { one: "converter", many: "Converters" },
  station: { one: "station", many: "Stations" },
};

/** Its label in one line. */
export function describe(part: ShelfPart): string {
  if (part.kind === "battery") {
    const { volts, ah, chemistry, bms_a } = part.figures;
    const gives = bms_a ? ` · gives ${quantity(bms_a, "A")}` : "";
    return `${quantity(volts, "V")} · ${quantity(ah, "Ah")} · ${chemistry.toUpperCase()}${gives}`;
  }
  if (part.kind === "station") {
    const { label_wh, chemistry, outlets, inputs } = part.figures;
    const ac = outlets.find((outlet) => outlet.kind === "ac");
    const into = inputs.find((input) => input.supply === "dc");
    const gives = ac ? ` · ${quantity(ac.continuous_w, "W")} AC` : "";
    const takes = into
      ? ` · in ${quantity(into.accepts.least_v, "V")} to ${quantity(into.accepts.most_v, "V")}, ${quantity(into.most_w, "W")}`
      : "";
    return `${quantity(label_wh, "Wh")} · ${chemistry.toUpperCase()}${gives}${takes}`;
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
  "fuse_a",
  "module_wh",
  "keep_back",
  "starts_at",
  "location",
  "provenance",
  "shelf",
  "parallel",
]);

type Copied = Bank["battery"] | Station | Exclude<Stage, { kind: "feed" }>;

/** The figures of a design's copy, without what belongs to its place. */
export const figuresOf = (copy: Copied) =>
  Object.fromEntries(
    Object.entries(copy).filter(([key]) => !HERE_ONLY.has(key)),
  ) as unknown as ShelfPart["figures"];

/** What a design holds of a part at a store or stage. */
export function copyAt(design: Design, subject: string): { kind: PartKind; copy: Copied } | null {
  const store = design.stores.find((one) => one.id === subject);
  if (store?.kind === "bank") return { kind: "battery", copy: store.battery };
  if (store?.kind === "station") return { kind: "station", copy: store };
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
      store.id === subject ? takenInto(store, kept, copied) : store,
    ),
    stages: design.stages.map((stage) =>
      stage.id === subject && stage.kind === part.kind ? ({ ...stage, ...copied } as Stage) : stage,
    ),
  };
}

function takenInto(store: Store, { part }: KeptPart, copied: object): Store {
  if (store.kind === "bank" && part.kind === "battery") {
    return { ...store, battery: { ...store.battery, ...copied } as Bank["battery"] };
  }
  if (store.kind !== "station" || part.kind !== "station") return store;
  // Its outlets make rails: those like the old ones keep their ids, so that loads stay on them.
  const free = [...store.outlets];
  const outlets = part.figures.outlets.map((outlet) => {
    const like = free.findIndex(
      (one) => one.kind === outlet.kind && (one.volts ?? 0) === (outlet.volts ?? 0),
    );
    const at = like >= 0 ? like : free.findIndex((one) => one.kind === outlet.kind);
    const old = at >= 0 ? free.splice(at, 1)[0] : undefined;
    return { ...outlet, id: old?.id ?? `${store.id}-${outlet.id}`.slice(0, 40) };
  });
  return { ...store, ...copied, outlets } as Station;
}

/** Figures that differ, by name; an outlet's id is the design's own. */
export function differing(a: ShelfPart["figures"], b: ShelfPart["figures"]): string[] {
  const left = a as unknown as Record<string, unknown>;
  const right = b as unknown as Record<string, unknown>;
  return Object.keys({ ...left, ...right })
    .filter((key) => written(left[key]) !== written(right[key]))
    .map((key) => key.replaceAll("_", " "));
}

const written = (value: unknown) =>
  JSON.stringify(value ?? null, (key, inner) => (key === "id" ? undefined : inner));
