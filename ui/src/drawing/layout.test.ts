import fc from "fast-check";
import { expect, test } from "vitest";
import type { Design } from "../api/types";
import { layOut } from "./layout";
import type { Placed } from "./placed";

interface Area {
  what: string;
  x: number;
  y: number;
  w: number;
  h: number;
}

/** What covers ground in a drawing: boxes, strips, loads with their strips. */
function areas(placed: Placed, strips: ReadonlySet<string>): Area[] {
  return [
    ...placed.boxes.map((box) => ({ ...box, what: `box ${box.id}` })),
    ...placed.strips.map((strip) => ({ ...strip, h: 34, what: `strip ${strip.subject}` })),
    ...placed.loads.map((load) => ({ x: load.x, y: load.y - 4, w: 209, h: 24, what: load.id })),
    ...placed.loads
      .filter((load) => strips.has(load.id))
      .map((load) => ({ x: load.stripX, y: load.stripY, w: 92, h: 34, what: `strip ${load.id}` })),
  ];
}

const meet = (one: Area, other: Area) =>
  one.x < other.x + other.w &&
  other.x < one.x + one.w &&
  one.y < other.y + other.h &&
  other.y < one.y + one.h;

/** Systems of some stages, each on the bank or on one before it, and loads anywhere. */
const systems = fc.array(fc.nat({ max: 5 }), { minLength: 0, maxLength: 7 }).chain((parents) =>
  fc.record({
    parents: fc.constant(parents),
    rails: fc.array(fc.nat({ max: 8 }), { minLength: 1, maxLength: 12 }),
    strips: fc.boolean(),
    room: fc.integer({ min: 640, max: 1600 }),
  }),
);

const idOf = (place: number, stages: number) => {
  const at = place % (stages + 1);
  return at === 0 ? "bank" : `stage-${at - 1}`;
};

function designOf(parents: readonly number[], rails: readonly number[]): Design {
  return {
    stores: [{ id: "bank", kind: "bank", name: "Bank", series: 1, parallel: 2 }],
    stages: parents.map((parent, n) => ({
      id: `stage-${n}`,
      kind: "converter",
      name: `Stage ${n}`,
      rail: idOf(parent, n),
    })),
    links: [],
    loads: rails.map((rail, n) => ({
      id: `load-${n}`,
      name: `Load ${n}`,
      rail: idOf(rail, parents.length),
    })),
  } as unknown as Design;
}

test("nothing in the drawing lies over another thing, or beyond its edge, or without its label", () => {
  fc.assert(
    fc.property(systems, ({ parents, rails, strips: any, room }) => {
      const design = designOf(parents, rails);
      const strips = new Set(
        any ? [...design.stages, ...design.loads].map((thing) => thing.id) : [],
      );
      const placed = layOut(design, { room, unfolded: new Set(), strips });
      const all = areas(placed, strips);
      for (const [at, one] of all.entries()) {
        expect([one.x >= 0, one.x + one.w <= placed.width, one.what]).toEqual([
          true,
          true,
          one.what,
        ]);
        expect([one.y >= -6, one.y + one.h <= placed.height + 8, one.what]).toEqual([
          true,
          true,
          one.what,
        ]);
        const on = all.slice(at + 1).find((other) => meet(one, other));
        expect([one.what, on?.what]).toEqual([one.what, undefined]);
      }
      // About what "0.195 A" over "(0.75 mm²", and "(0.75 mm² · 7.5 A)" at a load, take.
      for (const line of placed.lines) {
        const [, from = "0", to = "0"] = /^M([\d.]+) [\d.]+H([\d.]+)$/.exec(line.d) ?? [];
        expect(Number(to) - Number(from)).toBeGreaterThanOrEqual(line.side === "load" ? 76 : 60);
      }
    }),
    { seed: 7, numRuns: 300 },
  );
});

test("what only fills a bank stands below it, source over charger, and nothing meets", () => {
  const filled = (count: number): Design => {
    const made = designOf([0, 0, 1], [0, 1, 2, 3]);
    const sources = Array.from({ length: count }, (_, n) => `sun-${n}`);
    return {
      ...made,
      stores: [...made.stores, ...sources.map((id) => ({ id, kind: "sun", name: id, panel: {} }))],
      links: sources.map((id) => ({ id: `link-${id}`, name: id, rail: id, to: "bank" })),
    } as unknown as Design;
  };
  fc.assert(
    fc.property(
      fc.integer({ min: 1, max: 4 }),
      fc.integer({ min: 640, max: 1600 }),
      fc.boolean(),
      (count, room, shown) => {
        const design = filled(count);
        const strips = new Set(shown ? design.links.map((link) => link.id) : []);
        const placed = layOut(design, { room, unfolded: new Set(), strips });
        const all = areas(placed, strips);
        for (const [n, one] of all.entries()) {
          for (const other of all.slice(n + 1)) {
            expect(meet(one, other), `${one.what} on ${other.what}`).toBe(false);
          }
        }
        const box = (id: string) => placed.boxes.find((one) => one.id === id);
        const bank = box("bank");
        for (const { id } of design.stores.slice(1)) {
          const [source, charger] = [box(id), box(`link-${id}`)];
          if (!bank || !source || !charger) throw new Error(`${id} is not drawn`);
          expect(source.y).toBeGreaterThan(bank.y + bank.h);
          expect(charger.y).toBeGreaterThan(source.y + source.h);
          expect(charger.x + charger.w).toBeLessThanOrEqual(bank.x + bank.w);
          // No rail of its own.
          expect(placed.rails.some((rail) => rail.id === id)).toBe(false);
        }
        expect(placed.height).toBeGreaterThan(Math.max(...placed.boxes.map((b) => b.y + b.h)));
      },
    ),
    { numRuns: 60 },
  );
});
