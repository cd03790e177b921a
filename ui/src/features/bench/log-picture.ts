/** Geometry of a log's picture. Pure. */

import type { Thinned } from "../../api/types";

export const FIGURES = [
  { key: "volts", name: "Volts", unit: "V" },
  { key: "amps", name: "Amps", unit: "A" },
  { key: "watts", name: "Watts", unit: "W" },
  { key: "charge", name: "Charge", unit: "share" },
  { key: "air_c", name: "Temperature", unit: "°C" },
] as const;

/** The least and the most of a figure; a little apart where both are one. */
export function rangeOf(data: Thinned, key: string): readonly [number, number] {
  const known = (values: readonly (number | null)[] | undefined) =>
    (values ?? []).filter((x): x is number => x !== null);
  const low = Math.min(...known(data.least[key]));
  const high = Math.max(...known(data.most[key]));
  return high > low ? [low, high] : [low - 0.5, high + 0.5];
}

/** Paths of the band from least to most and of the line of the mean; gaps are left open. */
export function areaOf(
  data: Thinned,
  key: string,
  until: number,
  [low, high]: readonly [number, number],
  [width, height]: readonly [number, number],
): { band: string; line: string } {
  const x = (n: number) => (((data.at_s[n] ?? 0) / Math.max(until, 1e-9)) * width).toFixed(1);
  const y = (value: number) => (height - ((value - low) / (high - low)) * height).toFixed(1);
  const runs: number[][] = [[]];
  data.at_s.forEach((_, n) => {
    if (data.mean[key]?.[n] == null) runs.push([]);
    else runs.at(-1)?.push(n);
  });
  const path = (places: readonly number[], of: Record<string, (number | null)[]>) =>
    places.map((n) => `${x(n)},${y(of[key]?.[n] ?? low)}`);
  const full = runs.filter((run) => run.length);
  return {
    band: full
      .map(
        (run) =>
          `M${[...path(run, data.most), ...path([...run].reverse(), data.least)].join("L")}Z`,
      )
      .join(""),
    line: full.map((run) => `M${path(run, data.mean).join("L")}`).join(""),
  };
}
