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
} from "../../api/types";
import { quantity } from "../../lib/format";

export const KINDS: Record<PartKind, { one: string; many: string }> = {
  battery: { one: "battery", many: "Batteries" },
  inverter: { one: "inverter", many: "Inverters" },
  converter: { one: "converter", many: "Converters" },
  station: { one: "station", many: "Stations" },
  charger: { one: "charger", many: "Chargers" },
  panel: { one: "solar panel", many: "Solar panels" },
  cable: { one: "cable", many: "Cables" },
  fuse: { one: "fuse", many: "Fuses" },
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
  if (part.kind === "panel") {
    const { watts, voc_v, vmp_v, imp_a } = part.figures;
    return `${quantity(watts, "W")} · open ${quantity(voc_v, "V")} · at most power ${quantity(vmp_v, "V")}, ${quantity(imp_a, "A")}`;
  }
  if (part.kind === "cable") return `copper, ${part.figures.size}, one conductor, by the metre`;
  if (part.kind === "fuse") {
    return `${part.figures.kind.replaceAll("-", " ")} · with holder, up to ${quantity(part.figures.amps, "A")}`;
  }
  const { accepts } = part.figures;
  const window = `${quantity(accepts.least_v, "V")} to ${quantity(accepts.most_v, "V")}`;
  if (part.kind === "charger") {
    const { kind, amps, profile, hold_v } = part.figures;
    const holds = hold_v ? ` up to ${quantity(hold_v, "V")}` : "";
    return `${kind} · ${profile} · ${quantity(amps, "A")}${holds} · from ${window}`;
  }
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
  "transfer",
  "cable_mohm",
  "cable",
  "fuse",
  "connector",
  "bus_bar_a",
  "shunt_a",
  "module_wh",
  "reserve",
  "starts_at",
  "location",
  "provenance",
  "shelf",
  "parallel",
]);

type Copied = Bank["battery"] | Station | Exclude<Stage, { kind: "feed" }>;

const inverts = (copy: Copied) => "kind" in copy && copy.kind === "inverter";

/** The figures of a design's copy, without what belongs to its place. */
export const figuresOf = (copy: Copied) =>
  Object.fromEntries(
    Object.entries(copy).filter(
      // A station's break is on its label; an inverter's belongs to its transfer switch here.
      ([key]) => !HERE_ONLY.has(key) && !(key === "changeover" && inverts(copy)),
    ),
  ) as unknown as ShelfPart["figures"];

/** Kinds of which designs keep copies: cables and fuses are chosen by size there. */
type CopiedKind = Exclude<PartKind, "cable" | "fuse">;

interface Copy {
  kind: CopiedKind;
  name: string;
  provenance: NonNullable<ShelfPart["provenance"]>;
  figures: ShelfPart["figures"];
}

/** What a design holds of a part at a store, a stage or a charger. */
export function copyAt(design: Design, subject: string): Copy | null {
  const of = (kind: CopiedKind, copy: Copied): Copy => ({
    kind,
    name: copy.name ?? KINDS[kind].one,
    provenance: copy.provenance ?? "label",
    figures: figuresOf(copy),
  });
  const store = design.stores.find((one) => one.id === subject);
  if (store?.kind === "bank") return of("battery", store.battery);
  if (store?.kind === "station") return of("station", store);
  if (store?.kind === "sun") {
    const { name = KINDS.panel.one, provenance = "label", panel } = store;
    return { kind: "panel", name, provenance, figures: panel };
  }
  const link = design.links.find((one) => one.id === subject);
  if (link?.charger) {
    const { provenance = "label", shelf: _, shares_with: __, ...figures } = link.charger;
    return { kind: "charger", name: link.name ?? KINDS.charger.one, provenance, figures };
  }
  const stage = design.stages.find((one) => one.id === subject);
  return stage && stage.kind !== "feed" ? of(stage.kind, stage) : null;
}

/** A part's figures into its place in a design, with what they are a copy of. */
export function take(design: Design, subject: string, from: KeptPart): Design {
  const { part, id, revision, spread_from } = from;
  const noted = { provenance: spread_from, shelf: id ? { part: id, revision } : null };
  const copied = { ...part.figures, name: part.name, ...noted };
  // Links and panels keep the names of their places.
  if (part.kind === "charger") {
    const links = design.links.map((link) => {
      if (link.id !== subject) return link;
      const shares_with = link.charger?.shares_with ?? null;
      return { ...link, charger: { ...part.figures, ...noted, shares_with } };
    });
    return { ...design, links };
  }
  if (part.kind === "panel") {
    const placed = { panel: part.figures, ...noted };
    return {
      ...design,
      stores: design.stores.map((store) =>
        store.id === subject && store.kind === "sun" ? { ...store, ...placed } : store,
      ),
    };
  }
  const stores = design.stores.map((store) =>
    store.id === subject ? takenInto(store, from, copied) : store,
  );
  const changed = stores.find((store) => store.id === subject);
  return {
    ...design,
    stores,
    links: changed ? leadsInto(design, changed) : design.links,
    stages: design.stages.map((stage) =>
      stage.id === subject && stage.kind === part.kind ? ({ ...stage, ...copied } as Stage) : stage,
    ),
  };
}

/** The figures of a label into a part of a design: what it does not say stays. */
export function labelInto(design: Design, subject: string, figures: object): Design {
  const here = copyAt(design, subject);
  if (!here) return design;
  const part = { ...here, figures: { ...here.figures, ...figures } } as unknown as ShelfPart;
  const from = { id: "", revision: 0, spread_from: "label", part } as unknown as KeptPart;
  return take(design, subject, from);
}

function takenInto(store: Store, { part }: KeptPart, copied: object): Store {
  if (store.kind === "bank" && part.kind === "battery") {
    return { ...store, battery: { ...store.battery, ...copied } as Bank["battery"] };
  }
  if (store.kind !== "station" || part.kind !== "station") return store;
  // Loads and leads stay where they are: what is like the old keeps its id.
  return {
    ...store,
    ...copied,
    outlets: kept(
      part.figures.outlets,
      store.outlets,
      (one) => `${one.kind} ${one.volts ?? 0}`,
      (one) => one.kind,
      store.id,
    ),
    inputs: kept(
      part.figures.inputs,
      store.inputs,
      (one) => one.supply,
      (one) => one.supply,
      store.id,
    ),
  } as Station;
}

/** New things under the ids of the old ones they are like, closely or at all; the rest free ones. */
function kept<T extends { id: string }>(
  made: readonly T[],
  old: readonly T[],
  closely: (one: T) => string,
  atAll: (one: T) => string,
  prefix: string,
): T[] {
  const free = [...old];
  const taken = new Set<string>();
  const ids = made.map((one) => {
    let at = free.findIndex((other) => closely(other) === closely(one));
    if (at < 0) at = free.findIndex((other) => atAll(other) === atAll(one));
    const id = at >= 0 ? free.splice(at, 1)[0]?.id : undefined;
    if (id) taken.add(id);
    return id;
  });
  return made.map((one, n) => {
    let id = ids[n] ?? `${prefix}-${one.id}`.slice(0, 38);
    while (ids[n] === undefined && taken.has(id)) id = `${id}-2`;
    taken.add(id);
    return { ...one, id };
  });
}

/** Leads into a station whose inputs have changed: in a mode that is there, or out. */
function leadsInto(design: Design, store: Store): Design["links"] {
  if (store.kind !== "station") return design.links;
  return design.links.flatMap((link) => {
    if (link.to !== store.id) return [link];
    const input = store.inputs.find((one) => one.id === link.input);
    if (!input) return [];
    const mode = input.modes.some((one) => one.name === link.mode) ? link.mode : null;
    return [{ ...link, mode: mode ?? null }];
  });
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
