/** The layers of the power chart, as in the jar: loss and idle at the bottom, stones above. */

import type { Course } from "../../api/types";
import { stoneOf } from "../../pictures/stones";

export interface Layer {
  key: string;
  name: string;
  colour: string;
  values: readonly number[];
}

export function layersOf(
  course: Course,
  names: ReadonlyMap<string, string>,
  stones: ReadonlyMap<string, number>,
): Layer[] {
  const { series } = course;
  return [
    { key: "lost", name: "Conversion and cables", colour: "var(--water)", values: series.lost },
    { key: "idle", name: "Idle", colour: "var(--sand)", values: series.idle },
    ...Object.entries(series.watts).map(([id, values]) => ({
      key: id,
      name: names.get(id) ?? id,
      colour: stoneOf(stones.get(id) ?? 0),
      values,
    })),
  ];
}

/** What each source gives, as layers below the zero line. */
export const inflowsOf = (
  course: Course,
  sources: readonly { id: string; name: string; colour: string }[],
): Layer[] =>
  sources.map(({ id, name, colour }) => ({
    key: id,
    name,
    colour,
    values: (course.series.given[id] ?? []).map((watts) => Math.max(watts, 0)),
  }));

/** The layers with their upper edges, stacked, the highest first. */
export function stackedOf(layers: readonly Layer[]): [Layer, readonly number[]][] {
  let below: readonly number[] = [];
  const stacked = layers.map((layer): [Layer, readonly number[]] => {
    const under = below;
    below = layer.values.map((value, at) => value + (under[at] ?? 0));
    return [layer, below];
  });
  return stacked.reverse();
}
