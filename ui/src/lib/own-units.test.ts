import { afterEach, expect, test } from "vitest";
import { feet, lengthOf, metres, money } from "./own-units";
import { useSettings } from "./settings";

afterEach(() => useSettings.getState().set({ currency: "", lengths: "m" }));

// A foot is 0.3048 m exactly: international yard and pound agreement, 1959 (definition).
test.each([
  [0.3048, 1],
  [3.048, 10],
  [1.5, 4.92126],
])("%f m are %f ft", (m, ft) => {
  expect(feet(m)).toBeCloseTo(ft, 5);
  expect(metres(ft)).toBeCloseTo(m, 5);
});

test("lengths and prices are written in the reader's own units", () => {
  expect([lengthOf(3.048), money(380)]).toEqual(["3.05 m", "380"]);
  useSettings.getState().set({ currency: "EUR", lengths: "ft" });
  expect([lengthOf(3.048), money(380)]).toEqual(["10 ft", "EUR 380"]);
});
