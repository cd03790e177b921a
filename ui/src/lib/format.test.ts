import { expect, test } from "vitest";
import { celsius, clock, fahrenheit, hours, listed, number, plain, quantity } from "./format";

test.each([
  [0.3, "18 min"],
  [3.5, "3 h 30 min"],
  [23.98, "23 h 59 min"],
  [24, "1 d"],
  [41.2, "1 d 17 h"],
  [2400, "100 d"],
])("%d hours are %s", (value, text) => {
  expect(hours(value)).toBe(text);
});

test.each([
  [0, "00:00"],
  [18.5, "18:30"],
  [-1, "23:00"],
  [25.25, "01:15"],
  // A hair before midnight is midnight.
  [23.9999, "00:00"],
])("hour %d of the run is %s by the clock", (hour, text) => {
  expect(clock(hour)).toBe(text);
});

test("three figures are enough, and none is invented", () => {
  expect(
    [number(1234.5), number(0.4567), number(7.8125), number(20)].map((x) => x.replace(/\D/g, "")),
  ).toEqual(["1230", "0457", "781", "20"]);
  expect(quantity(0.125, "share")).toMatch(/^12.5 %$/);
  expect(plain(0.1 + 0.2)).toMatch(/^0.3$/);
});

test("the freezing and the boiling point of water (common practice)", () => {
  expect([fahrenheit(0), fahrenheit(100), celsius(32), celsius(212)]).toEqual([32, 212, 0, 100]);
});

test.each([
  [[], ""],
  [["a"], "a"],
  [["a", "b"], "a and b"],
  [["a", "b", "c"], "a, b and c"],
])("%j is written as a list", (names, text) => {
  expect(listed(names)).toBe(text);
});
