import { number } from "./format";
import { useSettings } from "./settings";

const METRES_PER_FOOT = 0.3048;

/** A price with the reader's own currency before it, from 100 up in whole units. */
export function money(value: number, digits = 5): string {
  const { currency } = useSettings.getState();
  const said = number(value >= 100 ? Math.round(value) : value, digits);
  return currency ? `${currency} ${said}` : said;
}

/** A length in the reader's unit. [m] in. */
export function lengthOf(metres: number): string {
  const unit = useSettings.getState().lengths;
  return `${number(unit === "ft" ? feet(metres) : metres)} ${unit}`;
}

export const feet = (metres: number) => Number((metres / METRES_PER_FOOT).toPrecision(6));

export const metres = (ft: number) => Number((ft * METRES_PER_FOOT).toPrecision(6));
