import { expect, test } from "vitest";
import type { Course } from "../../api/types";
import { inflowsOf, layersOf, stackedOf } from "./layers";

const course = {
  series: {
    lost: [1, 1, 1],
    idle: [2, 2, 2],
    watts: { lamp: [0, 5, 5] },
    given: { bank: [3, 8, -20], panel: [0, 0, 28], car: [-1, 4, 0] },
  },
} as unknown as Course;

test("layers stand one upon the other, the highest first", () => {
  const layers = layersOf(course, new Map([["lamp", "Lamp"]]), new Map([["lamp", 3]]));
  expect(layers.map((one) => one.name)).toEqual(["Conversion and cables", "Idle", "Lamp"]);
  const stacked = stackedOf(layers);
  expect(stacked.map(([one]) => one.key)).toEqual(["lamp", "idle", "lost"]);
  expect(stacked.map(([, edge]) => edge)).toEqual([
    [3, 8, 8],
    [3, 3, 3],
    [1, 1, 1],
  ]);
});

test("what sources give is never less than nothing, in their own colours", () => {
  const sources = [
    { id: "panel", name: "Panel", colour: "var(--sun)" },
    { id: "car", name: "Car", colour: "var(--engine)" },
    { id: "gone", name: "Gone", colour: "var(--socket)" },
  ];
  const inflows = inflowsOf(course, sources);
  expect(inflows.map((one) => one.values)).toEqual([[0, 0, 28], [0, 4, 0], []]);
  expect(inflows.map((one) => one.colour)).toEqual(sources.map((one) => one.colour));
});
