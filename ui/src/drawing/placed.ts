/** What the drawing is made of: places in pixels, and what both ways of laying it out share. */

import type { Load } from "../api/types";
import { type Branch, shownOf } from "./tree";

export const ROW = 27;
export const BOX_H = 60;
/** Where a load's watts end, from its stone on; and its strip begins. */
export const WATTS_X = 204;
export const STRIP_X = 214;
export const STRIP_W = 92;
export const STRIP_H = 36;
/** A row whose load has a strip is higher. */
export const STRIP_ROW = 39;
export const GAP = 12;
export const HEAD = 28;
/** A station's name and energy; a row of its box; a lead to a store drawn elsewhere. */
export const STATION_HEAD = 50;
export const STATION_ROW = 22;
export const LEAD_H = 44;

/** A charge input or an outlet on the edge of a station's box, at its height. */
export interface PlacedRow {
  id: string;
  kind: "lead" | "outlet";
  y: number;
}

export interface PlacedBox {
  id: string;
  kind: "store" | "stage" | "station" | "lead" | "outlet";
  rows?: PlacedRow[];
  x: number;
  y: number;
  w: number;
  h: number;
}

export interface PlacedRail {
  id: string;
  x: number;
  top: number;
  bottom: number;
  /** Where its name stands, and to which side of that. */
  nameX: number;
  nameY: number;
  anchor: "start" | "middle";
}

export interface PlacedLine {
  key: string;
  /** Whose amps it carries, and on which side: into a stage, out of a rail's source, to a load. */
  of: string;
  side: "in" | "out" | "load";
  d: string;
  labelX: number;
  labelY: number;
}

export interface PlacedLoad {
  id: string;
  x: number;
  y: number;
  w: number;
  /** Room for a strip of its own behind the watts, or below. */
  stripX: number;
  stripY: number;
}

export interface PlacedFold {
  rail: string;
  x: number;
  y: number;
  hidden: number;
}

export interface Placed {
  width: number;
  height: number;
  narrow: boolean;
  boxes: PlacedBox[];
  rails: PlacedRail[];
  lines: PlacedLine[];
  loads: PlacedLoad[];
  folds: PlacedFold[];
  strips: { subject: string; x: number; y: number; w: number }[];
  loose: { x: number; y: number } | null;
  /** Ids in the order of the eye, for the arrow keys. */
  order: string[];
}

export interface LayoutOptions {
  /** Room there is. [px] */
  room: number;
  unfolded: ReadonlySet<string>;
  /** Things that have a window strip. */
  strips: ReadonlySet<string>;
}

export const blank = (narrow: boolean): Placed => ({
  width: 0,
  height: 0,
  narrow,
  boxes: [],
  rails: [],
  lines: [],
  loads: [],
  folds: [],
  strips: [],
  loose: null,
  order: [],
});

export function straight(
  placed: Placed,
  of: string,
  side: PlacedLine["side"],
  from: number,
  to: number,
  y: number,
  labelX?: number,
) {
  const d = `M${from} ${y}H${to}`;
  const x = labelX ?? (side === "load" ? to - 3 : (from + to) / 2);
  placed.lines.push({ key: `${of}-${side}`, of, side, d, labelX: x, labelY: y - 5 });
}

/** A line that folds or unfolds the rest of a rail's loads; gives the height below it. */
export function fold(placed: Placed, branch: Branch, shown: number, x: number, y: number): number {
  const hidden = branch.loads.length - shown;
  if (!hidden && shown <= 7) return y;
  placed.folds.push({ rail: branch.rail, x, y, hidden });
  return y + ROW;
}

export function withLoose(
  placed: Placed,
  loose: Load[],
  total: number,
  unfolded: ReadonlySet<string>,
  x: number,
  w: number,
  top: number,
): Placed {
  let y = top;
  if (loose.length) {
    placed.loose = { x, y: y + 12 };
    y += 26;
    const shown = shownOf(loose, total, unfolded.has(""));
    for (const load of loose.slice(0, shown)) {
      placed.loads.push({ id: load.id, x, y, w: w - 8, stripX: x + STRIP_X, stripY: y - 3 });
      placed.order.push(load.id);
      y += ROW;
    }
    y = fold(placed, { rail: "", limbs: [], loads: loose }, shown, x, y);
  }
  placed.height = y + 6;
  return placed;
}
