import { expect, test } from "vitest";
import { inOneLine, KINDS, type Kind, type Look, nearestQuarter, readingOf } from "./fields";

test("a reading is whole once every figure it needs is there", () => {
  expect(readingOf("idle", "inverter", { amps: 1.7 })).toBeNull();
  expect(readingOf("idle", "inverter", { amps: 1.7, volts: 12 })).toEqual({
    kind: "idle",
    subject: "inverter",
    amps: 1.7,
    volts: 12,
  });
});

test("what may be left out is left out; the first choice counts until another is made", () => {
  expect(readingOf("power", "lamp", { watts: 9 })).toMatchObject({ watts: 9, holds_peaks: false });
  expect(readingOf("changeover", "station", {})).toMatchObject({ went_on: true });
  expect(readingOf("changeover", "station", { went_on: "" })).toMatchObject({ went_on: false });
});

test.each(Object.keys(KINDS) as Kind[])("a reading of %s is written in one line", (kind) => {
  const values = Object.fromEntries(KINDS[kind].numbers.map(({ key }, n) => [key, n + 2]));
  const reading = readingOf(kind, "part", values);
  expect(reading).not.toBeNull();
  if (reading) expect(inOneLine(reading)).not.toBe("");
});

test("a look is written by its charge, its time and what was on", () => {
  const look = {
    kind: "look",
    subject: "bank",
    charge: 0.62,
    clock_h: 20.5,
    on: null,
  } as unknown as Look;
  expect(inOneLine({ ...look, said_h: 18 })).toBe("62 % at 20:30, as planned");
  expect(inOneLine({ ...look, said_h: 18, on: ["lamp"] })).toContain("1 on");
});

test("now is a time of day at any time of day", () => {
  const at = (hour: number, minute: number) => nearestQuarter(new Date(2026, 10, 29, hour, minute));
  expect(at(21, 10)).toBe(21.25);
  // The nearest quarter is that of the next day, which begins at 0.
  expect(at(23, 57)).toBe(0);
});
