/** Numbers as people write them: two or three significant figures, in the reader's locale. */

const formats = new Map<string, Intl.NumberFormat>();

/** A value to `digits` significant figures; whole numbers beyond that many digits are rounded. */
export function number(value: number, digits = 3): string {
  const key = String(digits);
  let format = formats.get(key);
  if (!format) {
    format = new Intl.NumberFormat(undefined, {
      maximumSignificantDigits: digits,
      useGrouping: "min2",
    });
    formats.set(key, format);
  }
  return format.format(value);
}

/** As typed: all the digits a person put in, no grouping. */
export function plain(value: number): string {
  return new Intl.NumberFormat(undefined, {
    maximumSignificantDigits: 8,
    useGrouping: false,
  }).format(value);
}

export function quantity(value: number, unit: string, digits = 3): string {
  if (unit === "share") return `${number(value * 100, digits)} %`;
  if (unit === "h") return hours(value);
  return unit ? `${number(value, digits)} ${unit}` : number(value, digits);
}

/** Hours as days, hours and minutes, two of them at most. */
export function hours(value: number): string {
  if (value < 23.99) {
    const minutes = Math.round(value * 60);
    const rest = minutes % 60;
    if (minutes < 60) return `${minutes} min`;
    return rest ? `${Math.floor(minutes / 60)} h ${rest} min` : `${minutes / 60} h`;
  }
  const whole = Math.round(value);
  const days = Math.floor(whole / 24);
  const rest = whole % 24;
  return rest && days < 100 ? `${days} d ${rest} h` : `${days} d`;
}

/** A temperature in the reader's unit. [°C] in. */
export function temperature(celsius: number, unit: "C" | "F"): string {
  return `${number(unit === "C" ? celsius : fahrenheit(celsius))} °${unit}`;
}

export const fahrenheit = (celsius: number) => Math.round((celsius * 9) / 5 + 32);
export const celsius = (value: number) => Math.round(((value - 32) * 50) / 9) / 10;

/** An hour of the run as a time of day. [h] */
export function clock(hour: number): string {
  const minutes = Math.round((((hour % 24) + 24) % 24) * 60) % 1440;
  return `${String(Math.floor(minutes / 60)).padStart(2, "0")}:${String(minutes % 60).padStart(2, "0")}`;
}

/** Names joined with commas and a last "and". */
export const listed = (names: readonly string[]): string =>
  names.length < 2 ? (names[0] ?? "") : `${names.slice(0, -1).join(", ")} and ${names.at(-1)}`;
