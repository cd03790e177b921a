/** The design as a tree for the eye: stores, what is connected to their rails, loads last. Pure.
 *
 * A station that is fed stands behind the cable that feeds it: power runs from left to right.
 */

import type { Design, Lead, Load, Outlet, Stage, Station, Store } from "../api/types";
import { isStation } from "../design/edits";

/** A rail with what is connected to it. */
export interface Branch {
  rail: string;
  limbs: Limb[];
  loads: Load[];
}

/** A station with its outlets, each a rail; and the cable that feeds it, where it is drawn. */
export interface Box {
  station: Station;
  lead: Lead | null;
  outlets: { outlet: Outlet; branch: Branch }[];
}

export type Limb =
  | { kind: "stage"; id: string; stage: Stage; branch: Branch }
  | ({ kind: "station"; id: string } & Box)
  /** To a store that is drawn elsewhere. */
  | { kind: "lead"; id: string; lead: Lead };

export type Root = { id: string } & (
  | { kind: "store"; store: Store; branch: Branch }
  | ({ kind: "station" } & Box)
);

export interface Tree {
  roots: Root[];
  /** Loads that are not connected. */
  loose: Load[];
}

/** The rail each thing that makes one is connected to. */
function railsOf(design: Design): Map<string, string> {
  const parents = new Map(design.stages.map((stage) => [stage.id, stage.rail]));
  for (const store of design.stores.filter(isStation)) {
    for (const outlet of store.outlets) parents.set(outlet.id, store.id);
  }
  return parents;
}

/** The cable behind which each station is drawn: its first one that does not come from itself. */
function leadsOf(design: Design): Map<string, Lead> {
  const parents = railsOf(design);
  const leads = new Map<string, Lead>();
  const rootOf = (rail: string) => {
    let here = rail;
    for (let n = 0; n < 60; n += 1) {
      const next = parents.get(here) ?? leads.get(here)?.rail;
      if (next === undefined) return here;
      here = next;
    }
    return null;
  };
  for (const link of design.links) {
    const to = design.stores.find((store) => store.id === link.to);
    if (!to || !isStation(to) || leads.has(to.id)) continue;
    const root = rootOf(link.rail);
    if (root !== null && root !== to.id) leads.set(to.id, link);
  }
  return leads;
}

export function treeOf(design: Design): Tree {
  const leads = leadsOf(design);
  const boxOf = (station: Station): Box => ({
    station,
    lead: leads.get(station.id) ?? null,
    outlets: station.outlets.map((outlet) => ({ outlet, branch: branch(outlet.id) })),
  });
  const limbOf = (lead: Lead): Limb => {
    const to = design.stores.find((store) => store.id === lead.to);
    return to && isStation(to) && leads.get(to.id) === lead
      ? { kind: "station", id: to.id, ...boxOf(to) }
      : { kind: "lead", id: lead.id, lead };
  };
  const branch = (rail: string): Branch => ({
    rail,
    limbs: [
      ...design.stages
        .filter((stage) => stage.rail === rail && stage.id !== rail)
        .map((stage): Limb => ({ kind: "stage", id: stage.id, stage, branch: branch(stage.id) })),
      ...design.links.filter((link) => link.rail === rail).map(limbOf),
    ],
    loads: design.loads.filter((load) => load.rail === rail),
  });
  return {
    roots: design.stores
      .filter((store) => !leads.has(store.id))
      .map((store) =>
        isStation(store)
          ? { kind: "station" as const, id: store.id, ...boxOf(store) }
          : { kind: "store" as const, id: store.id, store, branch: branch(store.id) },
      ),
    loose: design.loads.filter((load) => !load.rail),
  };
}

const depthOfBox = (box: Box): number =>
  Math.max(1, ...box.outlets.map((one) => depthOf(one.branch)));

/** Rails from a branch's own to the last one. */
export const depthOf = (branch: Branch): number =>
  1 +
  Math.max(
    0,
    ...branch.limbs.map((limb) => {
      if (limb.kind === "stage") return depthOf(limb.branch);
      return limb.kind === "station" ? depthOfBox(limb) : 1;
    }),
  );

export const depthOfRoot = (root: Root): number =>
  root.kind === "store" ? depthOf(root.branch) : depthOfBox(root);

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
  const parents = railsOf(design);
  for (const link of design.links) parents.set(link.id, link.rail);
  for (const load of design.loads) if (load.rail) parents.set(load.id, load.rail);
  for (const link of design.links) if (!parents.has(link.to)) parents.set(link.to, link.id);
  if (way === "left") {
    const before = parents.get(at);
    return before && order.includes(before) ? before : at;
  }
  return order.find((one) => parents.get(one) === at) ?? at;
}
