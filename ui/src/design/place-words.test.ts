import { expect, test } from "vitest";
import { keepField, placeInWords, problemInWords } from "./place-words";

const design = {
  setting: { ambient_c: 8 },
  stores: [{ name: "Van bank", battery: { name: "LFP 12.8 V", ah: 150 } }],
  loads: [{ name: "Lamp", demand: { watts: 0 } }],
};

test.each([
  ["/loads/0/demand/watts", "Lamp: watts"],
  ["/stores/0/battery/ah", "Van bank: ah"],
  ["/setting/ambient_c", "setting: ambient"],
  ["/loads/7/hours_per_day", "loads: hours per day"],
  ["/setting/ambient_by_hour/6", "setting: ambient by hour, no. 7"],
  ["/setting/horizon_h", "Hours to simulate"],
  ["/stores/0/reserve", "Van bank: Reserve"],
  ["/stores/0", "Van bank:"],
  ["/loads/0/rail", "Lamp:"],
  ["/loads/0/count", "Lamp: count"],
  ["/name", "the design: name"],
])("%s is %s", (path, words) => {
  keepField("/setting/horizon_h", "Hours to simulate");
  keepField("/stores/0/reserve", "Reserve");
  keepField("/loads/0/count", "Lamp: count");
  expect(placeInWords(path, design)).toBe(words);
});

test("limits are told as the field says values", () => {
  const path = "/stores/0/reserve";
  const problem = { path, code: "less_than_equal", message: "must be 0.9 or less; 1.5 was given" };
  const end = keepField(path, "Reserve", (value) => `${value * 100} %`);
  expect(problemInWords(problem)).toBe("must be 90 % or less; 150 % was given");
  expect(problemInWords({ ...problem, code: "other" })).toBe(problem.message);
  expect(problemInWords({ ...problem, path: "/stores/1/reserve" })).toBe(problem.message);
  end();
  expect(problemInWords(problem)).toBe(problem.message);
});
