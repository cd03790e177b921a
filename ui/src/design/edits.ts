/** Changes to a document, each giving a new one. Pure. */

import type {
  Bank,
  Design,
  Inverter,
  Lead,
  Load,
  Outlet,
  Stage,
  Station,
  Store,
} from "../api/types";

export function firstStore(design: Design): Store {
  const store = design.stores[0];
  if (!store) throw new Error("a design always has a store");
  return store;
}

export const isBank = (store: Store): store is Bank => store.kind === "bank";
export const isStation = (store: Store): store is Station => store.kind === "station";

/** Outlets of all stations, each with its own. */
export const outletsOf = (design: Design): { outlet: Outlet; station: Station }[] =>
  design.stores
    .filter(isStation)
    .flatMap((station) => station.outlets.map((outlet) => ({ outlet, station })));

/** The name of every thing in a design, by its id. */
export const namesOf = (design: Design): Map<string, string> =>
  new Map([
    ...[...design.stores, ...design.stages, ...design.links, ...design.loads].map(
      (x): [string, string] => [x.id, x.name],
    ),
    ...outletsOf(design).map(({ outlet, station }): [string, string] => [
      outlet.id,
      `${station.name}, ${outlet.name}`,
    ]),
  ]);

/** The first inverter, the one that has a panel of its own. */
export const inverterOf = (design: Design): Inverter | undefined =>
  design.stages.find((stage) => stage.kind === "inverter");

/** Key of a figure of the first store. */
export const bankKey = (design: Design, name: string) => `store.${firstStore(design).id}.${name}`;

/** Key of a figure of the first inverter; of nothing without one. */
export const inverterKey = (design: Design, name: string) =>
  `stage.${inverterOf(design)?.id ?? ""}.${name}`;

/** Where a stage is in the document, as a JSON Pointer. */
export const stagePath = (design: Design, id: string) =>
  `/stages/${design.stages.findIndex((stage) => stage.id === id)}`;

export const withStore = <S extends Store>(design: Design, id: string, change: Partial<S>) => ({
  ...design,
  stores: design.stores.map((store) =>
    store.id === id ? ({ ...store, ...change } as Store) : store,
  ),
});

export const withBattery = (
  design: Design,
  id: string,
  change: Partial<Bank["battery"]>,
): Design => ({
  ...design,
  stores: design.stores.map((store) =>
    store.id === id && isBank(store)
      ? { ...store, battery: { ...store.battery, ...change } }
      : store,
  ),
});

export const withLink = (design: Design, id: string, change: Partial<Lead>): Design => ({
  ...design,
  links: design.links.map((link) => (link.id === id ? { ...link, ...change } : link)),
});

export const withStage = <S extends Stage>(design: Design, id: string, change: Partial<S>) => ({
  ...design,
  stages: design.stages.map((stage) =>
    stage.id === id ? ({ ...stage, ...change } as Stage) : stage,
  ),
});

/** DC rails, by the name of what makes them: not those that a store or stage feeds itself. */
export function dcRails(design: Design, except = ""): [string, string][] {
  const stores = design.stores
    .filter((store) => isBank(store) || store.kind === "vehicle")
    .map((store): [string, string] => [store.id, store.name]);
  const behind = behindOf(design, except);
  return [...stores, ...madeRails(design, "dc")].filter(([id]) => !behind.has(id));
}

/** AC rails, the same way. */
export function acRails(design: Design, except = ""): [string, string][] {
  const behind = behindOf(design, except);
  return madeRails(design, "ac").filter(([id]) => !behind.has(id));
}

/** Rails that outlets of stations and stages make. */
function madeRails(design: Design, kind: "ac" | "dc"): [string, string][] {
  return [
    ...outletsOf(design)
      .filter(({ outlet }) => outlet.kind === kind)
      .map(({ outlet, station }): [string, string] => [
        outlet.id,
        `${station.name}, ${outlet.name}`,
      ]),
    ...design.stages
      .filter((stage) => (stage.kind === "inverter") === (kind === "ac"))
      .map((stage): [string, string] => [stage.id, stage.name]),
  ];
}

/** A store or stage with all rails that it feeds. */
function behindOf(design: Design, id: string): Set<string> {
  const outlets = outletsOf(design).filter(({ station }) => station.id === id);
  const behind = new Set([id, ...outlets.map(({ outlet }) => outlet.id)]);
  for (const _ of design.stages) {
    for (const stage of design.stages) if (behind.has(stage.rail)) behind.add(stage.id);
  }
  return behind;
}

/** A design without a link; a charger that shared its amps has them alone. */
export const withoutLink = (design: Design, id: string): Design => ({
  ...design,
  links: design.links
    .filter((link) => link.id !== id)
    .map((link) =>
      link.charger?.shares_with === id
        ? { ...link, charger: { ...link.charger, shares_with: null } }
        : link,
    ),
});

export const withLoad = (design: Design, id: string, change: Partial<Load>): Design => ({
  ...design,
  loads: design.loads.map((load) => (load.id === id ? { ...load, ...change } : load)),
});

export const addLoad = (design: Design, load: Load): Design => ({
  ...design,
  loads: [...design.loads, { ...load, id: freeId(design, load.id) }],
});

export const removeLoads = (design: Design, ids: readonly string[]): Design => ({
  ...design,
  loads: design.loads.filter((load) => !ids.includes(load.id)),
});

export function duplicateLoad(design: Design, id: string): Design {
  const at = design.loads.findIndex((load) => load.id === id);
  const load = design.loads[at];
  if (!load) return design;
  const copy = { ...load, id: freeId(design, load.id), name: `${load.name} (copy)`.slice(0, 80) };
  return { ...design, loads: design.loads.toSpliced(at + 1, 0, copy) };
}

export function moveLoad(design: Design, id: string, by: number): Design {
  const at = design.loads.findIndex((load) => load.id === id);
  const to = at + by;
  const load = design.loads[at];
  if (!load || to < 0 || to >= design.loads.length) return design;
  return { ...design, loads: design.loads.toSpliced(at, 1).toSpliced(to, 0, load) };
}

function freeId(design: Design, wanted: string): string {
  const taken = new Set(namesOf(design).keys());
  const stem = wanted.replace(/-\d+$/, "").slice(0, 34);
  if (!taken.has(wanted)) return wanted;
  let n = 2;
  while (taken.has(`${stem}-${n}`)) n += 1;
  return `${stem}-${n}`;
}
