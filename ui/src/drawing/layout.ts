/** Where everything of the drawing stands. Pure: numbers in, places out, in pixels. */

import type { Design, Store } from "../api/types";
import { bankPictureSize } from "../pictures/BankPicture";
import { feedersOf, placeFeeders } from "./feeders";
import { outline } from "./outline";
import {
  BOX_H,
  blank,
  fold,
  GAP,
  HEAD,
  type LayoutOptions,
  LEAD_H,
  type Placed,
  type PlacedRow,
  ROW,
  STATION_HEAD,
  STATION_ROW,
  STRIP_H,
  STRIP_ROW,
  STRIP_W,
  STRIP_X,
  straight,
  WATTS_X,
  withLoose,
} from "./placed";
import { type Box, type Branch, depthOfRoot, shownOf, treeOf } from "./tree";

const NARROW = 620;
/** The shortest line that has room for its amps, size and fuse; and one to a load. */
const WIRE_W = 62;
const LOAD_WIRE_W = 76;

export function layOut(design: Design, options: LayoutOptions): Placed {
  return options.room < NARROW ? outline(design, options) : acrossThe(design, options);
}

/** Wide: stores at left, loads at right, a column of stages for each rail between. */
function acrossThe(design: Design, { room, unfolded, strips }: LayoutOptions): Placed {
  const placed = blank(false);
  const tree = treeOf(design);
  const depth = Math.max(...tree.roots.map(depthOfRoot));
  const anyStrip = design.loads.some((load) => strips.has(load.id));
  const storeW = tree.roots.some((root) => root.kind === "station") ? 176 : 142;
  const boxW = depth > 2 ? 156 : 170;
  const fixed = 10 + storeW + WIRE_W + (depth - 1) * (boxW + 2 * WIRE_W) + LOAD_WIRE_W + 14;
  // A strip stands behind its load's watts, or below its name where that is too wide.
  const stripsBelow = anyStrip && fixed + STRIP_X + STRIP_W + 6 > room;
  const loadW = anyStrip && !stripsBelow ? STRIP_X + STRIP_W + 6 : WATTS_X + 16;
  // What room is left over goes to the lines.
  const spare = Math.min(Math.max(room - fixed - loadW, 0) / (2 * depth), 44);
  const lead = WIRE_W + spare;
  const railX = (level: number) => 10 + storeW + WIRE_W + level * (boxW + 2 * lead);
  const loadX = railX(depth - 1) + 14 + LOAD_WIRE_W + spare;
  placed.width = Math.max(loadX + loadW, Math.min(room, loadX + loadW + 60));

  const place = (branch: Branch, level: number, top: number): number => {
    const x = railX(level);
    let y = top;
    const joins: number[] = [];
    for (const limb of branch.limbs) {
      const boxX = x + lead;
      if (limb.kind === "station") {
        const at = { x: boxX, w: boxW, top: y + 8, level: level + 1 };
        const [end, join] = placeBox(limb, at);
        if (limb.lead) straight(placed, limb.lead.id, "in", x, boxX, join);
        joins.push(join);
        y = end + GAP;
        continue;
      }
      if (limb.kind === "lead") {
        placed.order.push(limb.id);
        const box = { x: boxX, y: y + 8, w: boxW, h: LEAD_H };
        placed.boxes.push({ id: limb.id, kind: "lead", ...box });
        const centre = box.y + LEAD_H / 2;
        straight(placed, limb.id, "in", x, boxX, centre);
        joins.push(centre);
        const strip = strips.has(limb.id) ? STRIP_H : 0;
        if (strip)
          placed.strips.push({ subject: limb.id, x: boxX, y: box.y + LEAD_H + 4, w: boxW });
        y = box.y + LEAD_H + strip + GAP;
        continue;
      }
      const { id, branch: inner } = limb;
      const strip = strips.has(id) ? STRIP_H : 0;
      placed.order.push(id);
      const end = place(inner, level + 1, y + HEAD);
      const inside = end - (y + HEAD);
      const middle = y + HEAD + Math.max(inside - 10, ROW) / 2 - 4;
      const boxY = Math.max(middle - BOX_H / 2, y + 8);
      const centre = boxY + BOX_H / 2;
      placed.boxes.push({ id, kind: "stage", x: boxX, y: boxY, w: boxW, h: BOX_H });
      if (strip) placed.strips.push({ subject: id, x: boxX, y: boxY + BOX_H + 4, w: boxW });
      straight(placed, id, "in", x, boxX, centre);
      straight(placed, id, "out", boxX + boxW, railX(level + 1), centre);
      const rail = placed.rails.find((one) => one.id === id);
      if (rail) {
        rail.top = Math.min(rail.top, centre - 14);
        rail.bottom = Math.max(rail.bottom, centre + 14);
        rail.nameY = rail.top - 9;
      }
      joins.push(centre);
      y = Math.max(end, boxY + BOX_H + strip + GAP);
    }
    const shown = shownOf(branch.loads, design.loads.length, unfolded.has(branch.rail));
    if (branch.loads.length && branch.limbs.length) y += 6;
    for (const load of branch.loads.slice(0, shown)) {
      placed.loads.push({
        id: load.id,
        x: loadX,
        y,
        w: loadW - 8,
        stripX: stripsBelow ? loadX + 17 : loadX + STRIP_X,
        stripY: stripsBelow ? y + ROW - 6 : y - 3,
      });
      placed.order.push(load.id);
      straight(placed, load.id, "load", x, loadX - 8, y + ROW / 2 - 4);
      joins.push(y + ROW / 2 - 4);
      y += strips.has(load.id) ? (stripsBelow ? ROW + STRIP_H - 2 : STRIP_ROW) : ROW;
    }
    y = fold(placed, branch, shown, loadX, y);
    if (branch.loads.length) y += 10;
    const first = joins[0] ?? top + 10;
    const last = joins.at(-1) ?? top + 10;
    placed.rails.push({
      id: branch.rail,
      x,
      top: first - 13,
      bottom: last + 13,
      nameX: x,
      nameY: first - 22,
      anchor: "middle",
    });
    return Math.max(y, top + ROW + GAP);
  };

  /** A station, its outlets in rows at its edge; gives its lower end, and where its cable enters. */
  const placeBox = (
    box: Box,
    at: { x: number; w: number; top: number; level: number },
  ): [number, number] => {
    const { id } = box.station;
    const rows: PlacedRow[] = [];
    let y = at.top + STATION_HEAD;
    const join = y + STATION_ROW / 2 - 3;
    if (box.lead) {
      placed.order.push(box.lead.id);
      rows.push({ id: box.lead.id, kind: "lead", y: join });
      y += STATION_ROW;
    }
    placed.order.push(id);
    for (const { outlet, branch } of box.outlets) {
      placed.order.push(outlet.id);
      if (!branch.limbs.length && !branch.loads.length) {
        rows.push({ id: outlet.id, kind: "outlet", y: y + STATION_ROW / 2 - 3 });
        y += STATION_ROW;
        continue;
      }
      const end = place(branch, at.level, y + 34);
      const rail = placed.rails.find((one) => one.id === outlet.id);
      const centre = rail ? (rail.top + rail.bottom) / 2 : y + 34;
      rows.push({ id: outlet.id, kind: "outlet", y: centre });
      straight(placed, outlet.id, "out", at.x + at.w, railX(at.level), centre);
      y = Math.max(end, centre + STATION_ROW / 2 + 4);
    }
    const h = Math.max(y - at.top - 2, STATION_HEAD);
    placed.boxes.push({ id, kind: "station", x: at.x, y: at.top, w: at.w, h, rows });
    const strip = box.lead && strips.has(box.lead.id) ? STRIP_H : 0;
    if (box.lead && strip) {
      placed.strips.push({ subject: box.lead.id, x: at.x, y: at.top + h + 4, w: at.w });
    }
    return [at.top + h + strip, join];
  };

  let y = 42;
  const feeders = feedersOf(tree.roots);
  const below = new Set(feeders.map((one) => one.source));
  for (const root of tree.roots) {
    if (below.has(root.id)) continue;
    if (root.kind === "station") {
      const [end] = placeBox(root, { x: 10, w: storeW, top: y - 26, level: 0 });
      y = end + 40;
      continue;
    }
    const { id, branch } = root;
    placed.order.push(id);
    const top = y;
    const end = place(branch, 0, top);
    const h = storeHeight(root.store);
    placed.boxes.push({ id, kind: "store", x: 10, y: top - 26, w: storeW, h });
    const rail = placed.rails.find((one) => one.id === id);
    if (rail) {
      const meets = top + 40;
      rail.top = Math.min(rail.top, meets - 14);
      rail.bottom = Math.max(rail.bottom, meets + 14);
      rail.nameY = rail.top - 9;
      straight(placed, id, "out", 10 + storeW, rail.x, meets);
    }
    const mine = feeders.filter((one) => one.to === id);
    const low = placeFeeders(placed, mine, strips, storeW, top - 26 + h);
    y = Math.max(end, mine.length ? low + 14 : top + h - 8) + 14;
  }
  return withLoose(placed, tree.loose, design.loads.length, unfolded, loadX, loadW, y);
}

/** A bank with its picture; a source with its words. */
function storeHeight(store: Store): number {
  if (store.kind !== "bank") return 84;
  const picture = bankPictureSize(store.series, store.parallel);
  return 96 + picture.height * Math.min(1, 118 / picture.width, 150 / picture.height);
}
