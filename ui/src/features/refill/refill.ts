/** What the Refill view shares: which findings are its own, colours of sources, stacked hours. */

import type { Refill } from "../../api/types";

type Kind = Refill["inflows"][number]["kind"];

const CODES =
  /^(charger|sun|generator)\.|^link\.(no_charger|plain_relay|net_negative)$|^bank\.never_full$/;

/** Whether a finding is one of how the stores get full again. */
export const isOfRefill = (code: string): boolean => CODES.test(code);

export const SOURCE_WORDS: Record<Kind, string> = {
  sun: "sun",
  vehicle: "engine",
  mains: "mains",
  generator: "generator",
  store: "another store",
};

export const MONTHS = [
  "January",
  "February",
  "March",
  "April",
  "May",
  "June",
  "July",
  "August",
  "September",
  "October",
  "November",
  "December",
] as const;

export interface Bar {
  hour: number;
  from: number;
  to: number;
}

/** Columns of hours, one upon the other: where each stands in each hour it is not nothing. */
export function stacked(columns: readonly (readonly number[])[]): Bar[][] {
  const below = new Array<number>(columns[0]?.length ?? 0).fill(0);
  return columns.map((column) =>
    column.flatMap((value, hour) => {
      const from = below[hour] ?? 0;
      below[hour] = from + Math.max(value, 0);
      return value > 0 ? [{ hour, from, to: from + value }] : [];
    }),
  );
}

/** The highest sum of an hour. */
export const highest = (columns: readonly (readonly number[])[]): number =>
  Math.max(
    0,
    ...Array.from({ length: columns[0]?.length ?? 0 }, (_, hour) =>
      columns.reduce((sum, column) => sum + Math.max(column[hour] ?? 0, 0), 0),
    ),
  );
