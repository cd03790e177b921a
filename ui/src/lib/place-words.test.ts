import { expect, test } from "vitest";
import { placeInWords } from "./place-words";

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
  ["/name", "the design: name"],
])("%s is %s", (path, words) => {
  expect(placeInWords(path, design)).toBe(words);
});
