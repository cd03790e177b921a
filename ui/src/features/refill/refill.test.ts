import { expect, test } from "vitest";
import { highest, isOfRefill, stacked } from "./refill";

test("hours stand one upon the other, and nothing is drawn where nothing is", () => {
  const bars = stacked([
    [1, 0, 2],
    [3, 4, 0],
  ]);
  expect(bars).toEqual([
    [
      { hour: 0, from: 0, to: 1 },
      { hour: 2, from: 0, to: 2 },
    ],
    [
      { hour: 0, from: 1, to: 4 },
      { hour: 1, from: 0, to: 4 },
    ],
  ]);
  expect(
    highest([
      [1, 0, 2],
      [3, 4, 0],
    ]),
  ).toBe(4);
  expect(highest([])).toBe(0);
});

test.each([
  ["charger.above_rate", true],
  ["sun.hot_volts", true],
  ["link.no_charger", true],
  ["link.above_maximum", false],
  ["bank.no_protection", false],
])("%s belongs to the refill: %s", (code, is) => expect(isOfRefill(code)).toBe(is));
