/** Sources that only fill a bank stand below it, each with its charger: power runs up into it. Pure. */

import { GAP, LEAD_H, type Placed, STRIP_H } from "./placed";
import type { Root } from "./tree";

const SOURCE_H = 60;
/** Room for the amps between a source and its charger. */
const BETWEEN = 20;
/** The line at the left that leads up into the bank, and where what it joins begins. */
const LINE_X = 14;
const BOX_X = 26;

/** A source that only fills a bank, through one link. */
export interface Feeder {
  source: string;
  link: string;
  to: string;
}

/** The feeders among the roots of a drawing: nothing else hangs on them. */
export function feedersOf(roots: readonly Root[]): Feeder[] {
  const banks = new Set(
    roots.flatMap((root) => (root.kind === "store" && root.store.kind === "bank" ? [root.id] : [])),
  );
  return roots.flatMap((root) => {
    if (root.kind !== "store" || root.store.kind === "bank" || root.branch.loads.length) return [];
    const [limb, ...more] = root.branch.limbs;
    if (limb?.kind !== "lead" || more.length || !banks.has(limb.lead.to)) return [];
    return [{ source: root.id, link: limb.id, to: limb.lead.to }];
  });
}

/** Place the feeders of a bank below it, from `top` on; gives the height below the last. */
export function placeFeeders(
  placed: Placed,
  feeders: readonly Feeder[],
  strips: ReadonlySet<string>,
  width: number,
  top: number,
): number {
  const w = width - (BOX_X - 10);
  let y = top + GAP + 6;
  for (const { source, link } of feeders) {
    placed.order.push(source, link);
    placed.boxes.push({ id: source, kind: "store", x: BOX_X, y, w, h: SOURCE_H });
    const box = { x: BOX_X, y: y + SOURCE_H + BETWEEN, w, h: LEAD_H };
    placed.boxes.push({ id: link, kind: "lead", ...box });
    const across = BOX_X + w / 2;
    placed.lines.push({
      key: `${link}-in`,
      of: link,
      side: "in",
      d: `M${across} ${y + SOURCE_H}V${box.y}`,
      labelX: across + 30,
      labelY: y + SOURCE_H + BETWEEN / 2 + 4,
    });
    // Up into the bank, with an arrowhead at it.
    placed.lines.push({
      key: `${link}-fills`,
      of: link,
      side: "in",
      d: `M${BOX_X} ${box.y + LEAD_H / 2}H${LINE_X}V${top + 1}m-4 8l4 -8l4 8`,
      labelX: 0,
      labelY: 0,
    });
    y = box.y + LEAD_H;
    if (strips.has(link)) {
      placed.strips.push({ subject: link, x: BOX_X, y: y + 4, w });
      y += STRIP_H;
    }
    y += GAP;
  }
  return y;
}
