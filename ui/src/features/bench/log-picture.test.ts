import { expect, test } from "vitest";
import type { Thinned } from "../../api/types";
import { areaOf, rangeOf } from "./log-picture";

const LOG = {
  at_s: [0, 50, 100],
  count: [1, 2, 1],
  least: { amps: [1, 0, null] },
  mean: { amps: [1, 2, null] },
  most: { amps: [1, 5, null] },
} as unknown as Thinned;

test("a peak within a stretch is in the picture", () => {
  expect(rangeOf(LOG, "amps")).toEqual([0, 5]);
  const { band, line } = areaOf(LOG, "amps", 100, [0, 5], [200, 50]);
  expect(band).toBe("M0.0,40.0L100.0,0.0L100.0,50.0L0.0,40.0Z");
  expect(line).toBe("M0.0,40.0L100.0,30.0");
});

test("one value is drawn in the middle of its strip", () => {
  const flat = { ...LOG, least: { volts: [12] }, most: { volts: [12] } } as unknown as Thinned;
  expect(rangeOf(flat, "volts")).toEqual([11.5, 12.5]);
});
