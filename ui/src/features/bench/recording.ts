/** Rows that were recorded of an instrument, as a log's file. Pure. */

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
