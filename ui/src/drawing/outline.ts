import type { Design } from "../api/types";
import {
  BOX_H,
  blank,
  fold,
  type LayoutOptions,
  LEAD_H,
  type Placed,
  type PlacedRail,
  ROW,
  STATION_HEAD,
  STRIP_H,
  straight,
  withLoose,
} from "./placed";
import { type Box, type Branch, shownOf, treeOf } from "./tree";

/** Narrow: one thing below the other, set in by how many rails lie before it. */
export function outline(design: Design, { room, unfolded, strips }: LayoutOptions): Placed {
  const placed = blank(true);
  const tree = treeOf(design);
  const width = Math.max(room, 320);
  placed.width = width;
  // Room for size and fuse in two lines.
  const lead = 52;

  const place = (branch: Branch, x: number, top: number): number => {
    let y = top + 24;
    let last = top + 12;
    const shown = shownOf(branch.loads, design.loads.length, unfolded.has(branch.rail));
    const name = { nameX: x + 10, nameY: top + 15, anchor: "start" as const };
    const rail: PlacedRail = { id: branch.rail, x, top, bottom: 0, ...name };
    placed.rails.push(rail);
    for (const load of branch.loads.slice(0, shown)) {
      const w = width - x - lead - 8;
      placed.loads.push({ id: load.id, x: x + lead, y, w, stripX: width - 118, stripY: y + 20 });
      placed.order.push(load.id);
      last = y + ROW / 2 - 4;
      straight(placed, load.id, "load", x, x + lead - 6, last, x + 28);
      y += ROW + (strips.has(load.id) ? STRIP_H - 6 : 0);
    }
    y = fold(placed, branch, shown, x + lead, y);
    for (const limb of branch.limbs) {
      const lower = limb.kind === "stage" ? BOX_H : LEAD_H;
      const box = { x: x + lead, y: y + 18, w: Math.min(width - x - lead - 8, 300), h: lower };
      const of = limb.kind === "station" ? (limb.lead?.id ?? limb.id) : limb.id;
      placed.order.push(of);
      placed.boxes.push({ id: of, kind: limb.kind === "stage" ? "stage" : "lead", ...box });
      last = box.y + lower / 2;
      straight(placed, of, "in", x, box.x, last, x + 28);
      y = box.y + lower;
      if (strips.has(of)) placed.strips.push({ subject: of, x: box.x + 22, y: y + 4, w: 170 });
      y += strips.has(of) ? STRIP_H + 2 : 0;
      if (limb.kind === "station") y = placeBox(limb, box.x + 6, y + 6);
      if (limb.kind !== "stage") continue;
      y = place(limb.branch, box.x + 10, y);
      const made = placed.rails.find((one) => one.id === limb.id);
      if (made) made.top = box.y + BOX_H;
    }
    rail.bottom = Math.max(last + 6, top + 22);
    return y + 4;
  };

  /** A station and below it its outlets, each a box with its rail. */
  const placeBox = (box: Box, x: number, top: number): number => {
    const { id } = box.station;
    placed.order.push(id);
    const w = width - x - 8;
    placed.boxes.push({ id, kind: "station", x, y: top, w, h: STATION_HEAD, rows: [] });
    let y = top + STATION_HEAD;
    for (const { outlet, branch } of box.outlets) {
      placed.order.push(outlet.id);
      const spot = { x: x + 12, y: y + 6, w: Math.min(w - 12, 240), h: 26 };
      placed.boxes.push({ id: outlet.id, kind: "outlet", ...spot });
      y = spot.y + spot.h;
      if (!branch.limbs.length && !branch.loads.length) continue;
      y = place(branch, x + 22, y);
      const made = placed.rails.find((one) => one.id === outlet.id);
      if (made) made.top = spot.y + spot.h;
    }
    return y;
  };

  let y = 14;
  for (const root of tree.roots) {
    if (root.kind === "station") {
      y = placeBox(root, 8, y) + 12;
      continue;
    }
    placed.order.push(root.id);
    placed.boxes.push({ id: root.id, kind: "store", x: 8, y, w: width - 16, h: 48 });
    y = place(root.branch, 20, y + 48) + 8;
  }
  return withLoose(placed, tree.loose, design.loads.length, unfolded, 40, width - 48, y);
}
