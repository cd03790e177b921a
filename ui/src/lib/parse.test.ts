import fc from "fast-check";
import { describe, expect, test } from "vitest";
import { readHours, readNumber, readNumbers, readShare } from "./parse";

const values = (text: string) => {
  const read = readNumber(text);
  return read.kind === "ambiguous" ? read.readings.map((one) => one.value) : read;
};

describe("a number as people type it", () => {
  test.each([
    ["12.8", 12.8],
    ["12,8", 12.8],
    [",5", 0.5],
    ["0,500", 0.5],
    ["1.234,5", 1234.5],
    ["1,234.5", 1234.5],
    ["1,234,567", 1234567],
    ["10 000", 10000],
    ["10\u202f000,25", 10000.25],
    ["1’500", 1500],
    ["−5", -5],
    ["2000", 2000],
    ["1.2345", 1.2345],
  ])("%s is %d", (text, value) => {
    expect(readNumber(text)).toEqual({ kind: "number", value });
  });

  test.each([
    ["1,500", [1.5, 1500]],
    ["1.500", [1.5, 1500]],
    ["-12,800", [-12.8, -12800]],
  ])("%s can be read in two ways, and is asked", (text, both) => {
    expect(values(text)).toEqual(both);
  });

  test.each(["1.5e3", "1,23,4", "1 2", "abc", "--1", "1.2.3", "12 34", "Infinity", "NaN", "0x10"])(
    "%s is refused",
    (text) => {
      expect(readNumber(text).kind).toBe("refused");
    },
  );

  test("what the locale of any reader writes is read back, or asked with the right reading", () => {
    const locales = fc.constantFrom("en-GB", "de-DE", "fr-FR", "de-CH", "sv-SE", "pt-BR");
    const numbers = fc.integer({ min: -9_999_999, max: 9_999_999 }).map((n) => n / 100);
    fc.assert(
      fc.property(locales, numbers, (locale, value) => {
        const text = new Intl.NumberFormat(locale, { maximumFractionDigits: 2 }).format(value);
        const read = readNumber(text);
        const found = read.kind === "ambiguous" ? read.readings.map((one) => one.value) : [];
        expect(read.kind === "number" ? [read.value] : found).toContain(value === 0 ? 0 : value);
      }),
      { seed: 1, numRuns: 500 },
    );
  });
});

test.each([
  ["1.5 h", 1.5],
  ["1:30", 1.5],
  ["1 h 30", 1.5],
  ["1h30", 1.5],
  ["1 h 30 min", 1.5],
  ["90 min", 1.5],
  ["18 min", 0.3],
  ["0,5", 0.5],
  ["2 d", 48],
  ["1 day 6 hours", 30],
])("%s is %d hours", (text, hours) => {
  expect(readHours(text)).toEqual({ kind: "number", value: hours });
});

test.each(["1:75", "soon", "1 h 2 h", "5 m 2 h"])("%s is no time", (text) => {
  expect(readHours(text).kind).toBe("refused");
});

test("per cent is a share of one, also where it can be read in two ways", () => {
  expect(readShare("12,5 %")).toEqual({ kind: "number", value: 0.125 });
  expect(readShare("1,500")).toEqual({
    kind: "ambiguous",
    readings: [
      { text: "1.5 %", value: 0.015 },
      { text: "1500 %", value: 15 },
    ],
  });
});

test.each([
  ["5 9 12", [5, 9, 12]],
  ["5 / 9 / 12,5", [5, 9, 12.5]],
  ["  ", []],
  ["12 V", "“V” is not a number"],
  ["1e3", "“1e3” is not a number"],
])("numbers in “%s”", (text, found) => expect(readNumbers(text)).toEqual(found));
