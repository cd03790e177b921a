/** The design as a tree for the eye: stores, what hangs on their rails, loads last. Pure. */

import type { Design, Load, Stage } from "../api/types";

/** A rail with the stages and loads on it. */
export interface Branch {
  rail: string;
  stages: { stage: Stage; branch: Branch }[];
  loads: Load[];
}

export interface Tree {
  stores: { id: string; branch: Branch }[];
  /** Loads on no rail. */
  loose: Load[];
}

export function treeOf(design: Design): Tree {
  const branch = (rail: string): Branch => ({
    rail,
    stages: design.stages
      .filter((stage) => stage.rail === rail && stage.id !== rail)
      .map((stage) => ({ stage, branch: branch(stage.id) })),
    loads: design.loads.filter((load) => load.rail === rail),
  });
  return {
    stores: design.stores.map((store) => ({ id: store.id, branch: branch(store.id) })),
    loose: design.loads.filter((load) => !load.rail),
  };
}

/** Rails from a store to the last one. */
export const depthOf = (branch: Branch): number =>
  1 + Math.max(0, ...branch.stages.map((one) => depthOf(one.branch)));

/** Loads shown on a rail before the rest folds away. */
export function shownOf(loads: readonly Load[], total: number, unfolded: boolean): number {
  const most = total > 16 ? 4 : 7;
  return unfolded || loads.length <= most ? loads.length : most - 1;
}

export type Way = "left" | "right" | "up" | "down" | "first" | "last";

/** What an arrow key leads to: left to what feeds it, right to what it feeds, up and down along
 * the drawing. */
export function stepFrom(design: Design, order: readonly string[], at: string, way: Way): string {
  const index = order.indexOf(at);
  const near = (by: number) => order[index + by] ?? at;
  if (way === "first") return order[0] ?? at;
  if (way === "last") return order.at(-1) ?? at;
  if (way === "up") return near(-1);
  if (way === "down") return near(1);
  const thing = [...design.stages, ...design.loads].find((one) => one.id === at);
  if (way === "left") return thing?.rail && order.includes(thing.rail) ? thing.rail : at;
  const fed = [...design.stages, ...design.loads].filter((one) => one.rail === at);
  return fed.find((one) => order.includes(one.id))?.id ?? at;
}
