import fc from "fast-check";
import { expect, test } from "vitest";
import type { Jar } from "../api/types";
import { layOut, pebbles, spread } from "./jar-geometry";

const KINDS = ["stone", "idle", "standby", "loss"] as const;

const jars = fc
  .record({
    label: fc.integer({ min: 100, max: 10_000 }),
    reserve: fc.double({ min: 0, max: 0.5, noNaN: true }),
    uses: fc.array(fc.tuple(fc.constantFrom(...KINDS), fc.integer({ min: 0, max: 4000 })), {
      maxLength: 12,
    }),
  })
  .map(({ label, reserve, uses }) => ({
    label_wh: label,
    reserve_wh: label * reserve,
    usable_wh: label * (1 - reserve) * 0.9,
    day_wh: uses.reduce((sum, [, wh]) => sum + wh, 0),
    layers: uses.map(([kind, wh], n) => ({ kind, subject: `s${n}`, name: `s${n}`, wh, missed: 0 })),
  })) as unknown as fc.Arbitrary<Jar>;

test("height is energy: what lies in the jar and what heaps over it are a day's use", () => {
  fc.assert(
    fc.property(jars, (jar) => {
      const height = 200;
      const laid = layOut(jar, height);
      const within = laid.bands.reduce((sum, band) => sum + band.bottom - band.top, 0);
      expect((within * jar.label_wh) / height + laid.over).toBeCloseTo(jar.day_wh, 6);
      expect((height - laid.keptTop) * (jar.label_wh / height)).toBeCloseTo(jar.reserve_wh, 6);
      for (const band of laid.bands) expect(band.top).toBeGreaterThanOrEqual(0);
    }),
    { seed: 6 },
  );
});

test("water lies below sand, sand below stones", () => {
  fc.assert(
    fc.property(jars, (jar) => {
      const order = layOut(jar, 200).bands.map((band) => band.kind);
      const rank = order.map((kind) => (kind === "loss" ? 0 : kind === "stone" ? 2 : 1));
      expect(rank).toEqual([...rank].sort());
    }),
    { seed: 8 },
  );
});

test("labels keep their distance and their order, and stay in sight", () => {
  const heights = fc.array(fc.integer({ min: 0, max: 200 }), { minLength: 1, maxLength: 14 });
  fc.assert(
    fc.property(heights, (wanted) => {
      const placed = spread(wanted, 13, 0, 200);
      const sorted = [...placed].sort((a, b) => a - b);
      for (const [n, y] of sorted.entries()) {
        expect(y).toBeGreaterThanOrEqual(-1e-9);
        expect(y).toBeLessThanOrEqual(200);
        if (n) expect(y - (sorted[n - 1] ?? 0)).toBeGreaterThanOrEqual(13 - 1e-9);
      }
      for (const [n, y] of wanted.entries()) {
        const later = wanted.findIndex((other) => other > y);
        if (later >= 0) expect(placed[later] ?? 0).toBeGreaterThan(placed[n] ?? 0);
      }
    }),
    { seed: 9 },
  );
});

test("the stones of a band are the same each time it is drawn", () => {
  expect(pebbles("kettle", 0, 150, 0, 40, 12)).toEqual(pebbles("kettle", 0, 150, 0, 40, 12));
  expect(pebbles("kettle", 0, 150, 0, 40, 12)).not.toEqual(pebbles("fan", 0, 150, 0, 40, 12));
});

test("without a store a day's use fills it, and nothing is not a number", () => {
  fc.assert(
    fc.property(jars, (jar) => {
      const engine = { ...jar, label_wh: 0, reserve_wh: 0, usable_wh: 0 };
      const laid = layOut(engine, 200);
      expect(laid.usableTop).toBe(200);
      const used = jar.layers.some((layer) => layer.wh > 0);
      const tops = laid.bands.map((band) => band.top);
      expect(Math.min(200, ...tops)).toBeCloseTo(used ? 0 : 200);
    }),
  );
});
