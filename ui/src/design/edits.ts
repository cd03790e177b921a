/** Changes to a document, each giving a new one. Pure. */

import type { Bank, Design, Inverter, Load } from "../api/types";

export function bankOf(design: Design): Bank {
  const bank = design.stores[0];
  if (!bank) throw new Error("a design always has a store");
  return bank;
}

export const inverterOf = (design: Design): Inverter | undefined => design.stages[0];

export const withBank = (design: Design, change: Partial<Bank>): Design => ({
  ...design,
  stores: [{ ...bankOf(design), ...change }],
});

export const withBattery = (design: Design, change: Partial<Bank["battery"]>): Design =>
  withBank(design, { battery: { ...bankOf(design).battery, ...change } });

export function withInverter(design: Design, change: Partial<Inverter>): Design {
  const inverter = inverterOf(design);
  return inverter ? { ...design, stages: [{ ...inverter, ...change }] } : design;
}

export const addInverter = (design: Design, blank: Inverter): Design => ({
  ...design,
  stages: [{ ...blank, rail: bankOf(design).id, output_v: design.setting.ac_volts }],
});

/** Its loads go to the bank's rail, where those that cannot run there say so. */
export const removeInverter = (design: Design): Design => ({
  ...design,
  stages: [],
  loads: design.loads.map((load) => ({ ...load, rail: bankOf(design).id })),
});

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
