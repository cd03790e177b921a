import { expect, test } from "vitest";
import type { WeekDay } from "../../api/types";
import { typedOutages, united, withOutage } from "./outages";

const DAYS: WeekDay[] = Array.from({ length: 7 }, () => ({
  sun: "usual",
  engine: true,
  mains: true,
  outages: [],
}));

const spans = (days: WeekDay[]) =>
  days.map((day) => day.outages?.map(({ from_h, to_h }) => `${from_h}-${to_h}`).join() ?? "");

test("an outage past midnight lies on both days, whichever way it is drawn", () => {
  const there = ["", "22-24", "0-6", "", "", "", ""];
  expect(spans(withOutage(DAYS, 46, 54))).toEqual(there);
  expect(spans(withOutage(DAYS, 54, 46))).toEqual(there);
});

test("what touches becomes one, and what lies apart stays so", () => {
  const one = withOutage(withOutage(DAYS, 2, 4), 4, 6);
  expect(spans(withOutage(one, 8, 9))[0]).toBe("2-6,8-9");
  expect(united([])).toEqual([]);
});

test("typed times replace those of their day; Sunday's night goes on on Monday", () => {
  const drawn = withOutage(DAYS, 30, 32);
  expect(spans(typedOutages(drawn, 1, [{ from_h: 12, to_h: 14 }]))[1]).toBe("12-14");
  expect(spans(typedOutages(drawn, 1, []))[1]).toBe("");
  const night = spans(typedOutages(DAYS, 6, [{ from_h: 22, to_h: 6 }]));
  expect([night[0], night[6]]).toEqual(["0-6", "22-24"]);
});
