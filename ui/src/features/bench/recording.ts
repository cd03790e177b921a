/** Rows that were recorded of an instrument: as a log's file, and kept until they are one. */

import type { LogLayout, Quantity } from "../../api/types";

export interface Recorded {
  at_s: number;
  values: Partial<Record<Quantity, number | null>>;
}

const COLUMNS = ["volts", "amps", "watts", "charge"] as const;

/** How `asCsv` lays them out. */
export const RECORDED_LAYOUT: LogLayout = {
  separator: ",",
  decimal: ".",
  first_row: 1,
  time: "seconds",
  discharge: "positive",
  columns: [
    { name: "seconds", role: "time", factor: 1 },
    ...COLUMNS.map((name) => ({ name, role: name, factor: 1 })),
  ],
};

/** One row a reading; empty where the instrument was beyond its range or has no such figure. */
export function asCsv(rows: readonly Recorded[]): string {
  const lines = rows.map(({ at_s, values }) =>
    [at_s.toFixed(3), ...COLUMNS.map((name) => values[name] ?? "")].join(","),
  );
  return [["seconds", ...COLUMNS].join(","), ...lines].join("\n");
}

const placeOf = (design: string) => `gravel-jar recording ${design}`;

/** Rows of a recording that was neither kept nor discarded. */
export function recordedBefore(design: string): Recorded[] {
  try {
    const found: unknown = JSON.parse(localStorage.getItem(placeOf(design)) ?? "[]");
    return Array.isArray(found) ? (found as Recorded[]) : [];
  } catch {
    return [];
  }
}

/** Keep the rows of a recording; none takes what was kept away. */
export function keepRecorded(design: string, rows: readonly Recorded[]): void {
  try {
    if (rows.length) localStorage.setItem(placeOf(design), JSON.stringify(rows));
    else localStorage.removeItem(placeOf(design));
  } catch {
    // Full: the page still has them.
  }
}
