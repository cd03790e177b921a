import fc from "fast-check";
import { expect, test } from "vitest";
import { labelsOf } from "./cut-labels";
import { clockTicks, inSight, nights, panned, valueAt, zoomed } from "./geometry";

const whole = { from: 0, to: 72 };
const hours = fc.double({ min: 0, max: 72, noNaN: true });

test("zooming keeps the hour under the pointer, and stays within the run", () => {
  const seen = zoomed({ from: 20, to: 40 }, whole, 25, 0.5);
  expect(seen).toEqual({ from: 22.5, to: 32.5 });
  fc.assert(
    fc.property(hours, hours, fc.double({ min: 0.1, max: 8, noNaN: true }), (at, by, factor) => {
      for (const view of [zoomed(seen, whole, at, factor), panned(seen, whole, by - 36)]) {
        expect(view.from).toBeGreaterThanOrEqual(-1e-9);
        expect(view.to).toBeLessThanOrEqual(72 + 1e-9);
        expect(view.to).toBeGreaterThan(view.from);
      }
    }),
    { seed: 2 },
  );
});

test("thinning the points loses neither the lowest nor the highest", () => {
  const heights = fc.array(fc.integer({ min: -1000, max: 1000 }), {
    minLength: 50,
    maxLength: 900,
  });
  fc.assert(
    fc.property(heights, fc.integer({ min: 2, max: 60 }), (values, pixels) => {
      const at = values.map((_, n) => n / 10);
      const view = { from: 0, to: values.length / 10 };
      const kept = inSight(at, values, view, pixels);
      const drawn = kept.map((n) => values[n] ?? 0);
      expect([Math.min(...drawn), Math.max(...drawn)]).toEqual([
        Math.min(...values),
        Math.max(...values),
      ]);
      expect(kept).toEqual([...kept].sort((a, b) => a - b));
      expect(kept.length).toBeLessThanOrEqual(Math.max(4 * (pixels + 1), 2 * pixels));
    }),
    { seed: 4, numRuns: 60 },
  );
});

test.each([
  [0, 10],
  [1, 15],
  [2, 20],
  // Two points at one hour: a jump; the later one counts from there on.
  [4, 40],
  [9, 40],
])("at hour %d the column has %d, straight between its points", (at, value) => {
  expect(valueAt([0, 2, 4, 4], [10, 20, 30, 40], at)).toBe(value);
});

test("the clock is written at even times of day, wherever the run begins", () => {
  expect(clockTicks({ from: 0, to: 12 }, 18.5, 6)).toEqual(
    [-0.5, 1.5, 3.5, 5.5, 7.5, 9.5, 11.5].slice(1),
  );
});

test("nights are from dusk to dawn, cut to what is seen", () => {
  const night = { dusk_h: 20, dawn_h: 7 };
  expect(nights({ from: 0, to: 30 }, 18, night)).toEqual([
    { from: 2, to: 13 },
    { from: 26, to: 30 },
  ]);
  expect(nights({ from: 0, to: 2 }, 3, night)).toEqual([{ from: 0, to: 2 }]);
});

test("a label stands at the right, and at the left where the curve falls through it", () => {
  const frame = { left: 50, right: 900, top: 0, bottom: 200 };
  const falls = (x: number) => (x < 700 ? 20 : 20 + (x - 700) * 0.5);
  const labels = [
    { text: "Fan cuts out 12.6 V", height: 90 },
    { text: "Boost cuts out 9 V", height: 180 },
  ];
  const [fan, boost] = labelsOf(labels, falls, frame);
  expect(fan).toEqual({ x: 50, y: 90, anchor: "start" });
  expect(boost).toEqual({ x: 900, y: 180, anchor: "end" });
});
