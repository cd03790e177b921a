import { expect, test } from "vitest";
import { asCsv, keepRecorded, RECORDED_LAYOUT, recordedBefore } from "./recording";

test("what was recorded is a file with a row a reading; overload is empty", () => {
  const rows = [
    { at_s: 0, values: { volts: 13.2, amps: 5 } },
    { at_s: 2.0004, values: { volts: 13.19, amps: null } },
  ];
  expect(asCsv(rows)).toBe("seconds,volts,amps,watts,charge\n0.000,13.2,5,,\n2.000,13.19,,,");
  expect(RECORDED_LAYOUT.columns.map((one) => one.name).join()).toBe(asCsv([]));
});

test("a recording outlives a reload until it is kept or discarded", () => {
  const rows = [{ at_s: 0, values: { volts: 13.2 } }];
  keepRecorded("van", rows);
  expect(recordedBefore("van")).toEqual(rows);
  expect(recordedBefore("hut")).toEqual([]);
  keepRecorded("van", []);
  expect(recordedBefore("van")).toEqual([]);
  localStorage.setItem("gravel-jar recording van", "{");
  expect(recordedBefore("van")).toEqual([]);
});
