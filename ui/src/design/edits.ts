/** Changes to a document, each giving a new one. Pure. */

import type { Bank, Converter, Design, Inverter, Load, Stage } from "../api/types";

export function bankOf(design: Design): Bank {
  const bank = design.stores[0];
  if (!bank) throw new Error("a design always has a store");
  return bank;
}

/** The first inverter, the one that has a panel of its own. */
export const inverterOf = (design: Design): Inverter | undefined =>
  design.stages.find((stage) => stage.kind === "inverter");

/** Key of a figure of the first store. */
export const bankKey = (design: Design, name: string) => `store.${bankOf(design).id}.${name}`;

/** Key of a figure of the first inverter; of nothing without one. */
export const inverterKey = (design: Design, name: string) =>
  `stage.${inverterOf(design)?.id ?? ""}.${name}`;

/** Where a stage stands in the document, as a JSON Pointer. */
export const stagePath = (design: Design, id: string) =>
  `/stages/${design.stages.findIndex((stage) => stage.id === id)}`;

export const withBank = (design: Design, change: Partial<Bank>): Design => ({
  ...design,
  stores: [{ ...bankOf(design), ...change }, ...design.stores.slice(1)],
});

export const withBattery = (design: Design, change: Partial<Bank["battery"]>): Design =>
  withBank(design, { battery: { ...bankOf(design).battery, ...change } });

export function withInverter(design: Design, change: Partial<Inverter>): Design {
  const inverter = inverterOf(design);
  return inverter ? withStage<Inverter>(design, inverter.id, change) : design;
}

export const withStage = <S extends Stage>(design: Design, id: string, change: Partial<S>) => ({
  ...design,
  stages: design.stages.map((stage) =>
    stage.id === id ? ({ ...stage, ...change } as Stage) : stage,
  ),
});

export const addInverter = (design: Design, blank: Inverter): Design => ({
  ...design,
  stages: [
    ...design.stages,
    {
      ...blank,
      id: freeId(design, blank.id),
      rail: bankOf(design).id,
      output_v: design.setting.ac_volts,
    },
  ],
});

export const addConverter = (design: Design, blank: Converter): Design => ({
  ...design,
  stages: [...design.stages, { ...blank, id: freeId(design, blank.id), rail: bankOf(design).id }],
});

/** What hangs on it goes to the rail before it; mains appliances to no rail. */
export function removeStage(design: Design, id: string): Design {
  const gone = design.stages.find((stage) => stage.id === id);
  if (!gone) return design;
  return {
    ...design,
    stages: design.stages
      .filter((stage) => stage.id !== id)
      .map((stage) => (stage.rail === id ? { ...stage, rail: gone.rail } : stage)),
    loads: design.loads.map((load) =>
      load.rail === id ? { ...load, rail: load.supply.kind === "ac" ? null : gone.rail } : load,
    ),
  };
}

/** Rails a load can hang on: DC appliances on an AC rail run through their mains adapter. */
export function railsFor(design: Design, load: Load): [string, string][] {
  const rails: [string, string][] = [["", "on no rail yet"]];
  const ac = load.supply.kind === "ac";
  if (!ac) {
    for (const store of design.stores) rails.push([store.id, `straight on ${store.name}`]);
  }
  for (const stage of design.stages) {
    if (stage.kind === "inverter") {
      rails.push([stage.id, `behind ${stage.name}${ac ? "" : ", by its adapter"}`]);
    } else if (!ac) rails.push([stage.id, `behind ${stage.name}`]);
  }
  return rails;
}

export const withLoad = (design: Design, id: string, change: Partial<Load>): Design => ({
  ...design,
  loads: design.loads.map((load) => (load.id === id ? { ...load, ...change } : load)),
});

export const addLoad = (design: Design, load: Load): Design => ({
  ...design,
  loads: [...design.loads, { ...load, id: freeId(design, load.id) }],
});

export const removeLoad = (design: Design, id: string): Design => ({
  ...design,
  loads: design.loads.filter((load) => load.id !== id),
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
  const taken = new Set([...design.stores, ...design.stages, ...design.loads].map((x) => x.id));
  const stem = wanted.replace(/-\d+$/, "").slice(0, 34);
  if (!taken.has(wanted)) return wanted;
  let n = 2;
  while (taken.has(`${stem}-${n}`)) n += 1;
  return `${stem}-${n}`;
}
