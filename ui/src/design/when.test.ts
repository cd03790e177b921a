import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { When } from "../api/types";
import { hoursOf, readSpans, withHours, writeSpans } from "./when";

const evening: When = { kind: "windows", windows: [{ from_h: 19, to_h: 22.5 }] };
const night: When = { kind: "windows", windows: [{ from_h: 22, to_h: 6 }] };

describe("hours of windows", () => {
  test.each([
    [evening, 3.5],
    [night, 8],
    [{ kind: "windows", windows: [{ from_h: 7, to_h: 7 }] } as When, 24],
    [{ kind: "at", at_h: 8, hours: 0.3 } as When, 0.3],
  ])("are those of the clock, past midnight too", (when, hours) => {
    expect(hoursOf(when)).toBe(hours);
  });

  test("windows keep their beginnings when the hours change", () => {
    expect(withHours(evening, 7)).toEqual({
      kind: "windows",
      windows: [{ from_h: 19, to_h: 2 }],
    });
  });

  test.each([0, -1, 24.5, 30])("%d hours are no window: the server says why", (hours) => {
    expect(withHours(evening, hours)).toEqual({ kind: "hours", hours });
  });

  test("other hours are what was typed, whatever the windows", () => {
    const spans = fc.array(
      fc.record({ from_h: fc.nat({ max: 95 }), long: fc.integer({ min: 1, max: 12 }) }),
      { minLength: 1, maxLength: 3 },
    );
    fc.assert(
      fc.property(spans, fc.integer({ min: 1, max: 96 }), (given, quarters) => {
        const windows = given.map(({ from_h, long }) => ({
          from_h: from_h / 4,
          to_h: (from_h / 4 + long / 2) % 24,
        }));
        const wanted = quarters / 4 / windows.length;
        const changed = withHours({ kind: "windows", windows }, wanted);
        expect(hoursOf(changed)).toBeCloseTo(wanted, 2);
      }),
      { seed: 3 },
    );
  });
});

describe("times of day as they are typed", () => {
  test.each([
    ["19:00-22:30", evening],
    ["19-22.30", evening],
    ["22:00–6:00", night],
    ["7h30", { kind: "at", at_h: 7.5, hours: 2 }],
    ["", { kind: "hours", hours: 2 }],
  ])("%s", (text, when) => {
    expect(readSpans(text, 2)).toEqual(when);
  });

  test.each(["25", "19-", "noon", "8-9-10x", "19:75-20:00"])(
    "%s is refused with a word",
    (text) => {
      expect(typeof readSpans(text, 2)).toBe("string");
    },
  );

  test("what is written is read back", () => {
    for (const when of [evening, night]) expect(readSpans(writeSpans(when), 2)).toEqual(when);
  });
});
