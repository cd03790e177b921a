/** Numbers and times as people type them. What can be read in two ways is asked, never guessed. */

export type Read =
  | { kind: "empty" }
  | { kind: "number"; value: number }
  /** It can be read in two ways: each as it may be written, and its value. */
  | { kind: "ambiguous"; readings: readonly Reading[] }
  | { kind: "refused"; why: string };

export interface Reading {
  text: string;
  value: number;
}

const NOT_A_NUMBER = "not a number";
const SPACES = "[ \\u00a0\\u2009\\u202f'’]";
const PLAIN = /^(?:\d+[.,]?\d*|[.,]\d+)$/;
/** Digits in groups of three, by one kind of separator, and perhaps a decimal part by another. */
const GROUPED = new RegExp(`^\\d{1,3}(?:(${SPACES}|[.,])\\d{3})(?:\\1\\d{3})*(?:([.,])\\d+)?$`);
const TWO_WAYS = /^[1-9]\d{0,2}[.,]\d{3}$/;

/** A number with a decimal point or comma, with thousands apart or not. */
export function readNumber(text: string): Read {
  const trimmed = text.trim();
  if (!trimmed) return { kind: "empty" };
  const sign = /^[-−–]/.test(trimmed) ? -1 : 1;
  const bare = trimmed.replace(/^[-−–+]\s*/, "");
  if (/^[\d.,]+e[-+]?\d+$/i.test(bare))
    return { kind: "refused", why: "write it out: 1500, not 1.5e3" };
  if (TWO_WAYS.test(bare)) {
    const decimal = sign * Number(bare.replace(",", "."));
    const thousands = sign * Number(bare.replace(/[.,]/, ""));
    return {
      kind: "ambiguous",
      readings: [decimal, thousands].map((value) => ({ text: String(value), value })),
    };
  }
  const grouped = GROUPED.exec(bare);
  // "0,500" is a half: nobody writes thousands after a zero.
  if (grouped && grouped[1] !== grouped[2] && !/^0[.,]/.test(bare)) {
    const decimal = grouped[2];
    const digits = decimal ? bare.split(decimal) : [bare];
    const whole = (digits[0] ?? "").replace(/\D/g, "");
    return numberOf(sign, decimal ? `${whole}.${digits[1]}` : whole);
  }
  if (PLAIN.test(bare)) return numberOf(sign, bare.replace(",", "."));
  return { kind: "refused", why: NOT_A_NUMBER };
}

const numberOf = (sign: number, digits: string): Read => ({
  kind: "number",
  value: sign * Number(digits),
});

/** Numbers apart by slashes, semicolons or spaces; by commas too, where a space follows. */
export function readNumbers(text: string): number[] | string {
  const found: number[] = [];
  for (const part of text.split(/\s*[/;]\s*|,\s+|\s+/).filter(Boolean)) {
    const read = readNumber(part);
    if (read.kind !== "number") return `“${part}” is not a number`;
    found.push(read.value);
  }
  return found;
}

/** Per cent, as a share of one. */
export function readShare(text: string): Read {
  const read = readNumber(text.trim().replace(/\s*%$/, ""));
  const share = (value: number) => Number((value / 100).toPrecision(8));
  if (read.kind === "number") return { kind: "number", value: share(read.value) };
  if (read.kind !== "ambiguous") return read;
  return {
    kind: "ambiguous",
    readings: read.readings.map((one) => ({ text: `${one.text} %`, value: share(one.value) })),
  };
}

const SPAN =
  /^(?:(?<d>[\d.,]+)\s*d(?:ays?)?)?\s*(?:(?<h>[\d.,]+)\s*h(?:(?:ou)?rs?)?)?\s*(?:(?<m>[\d.,]+)\s*(?:m(?:in(?:utes?)?)?)?)?$/i;

/** Hours: "1.5", "1,5 h", "1:30", "1 h 30", "1h30", "90 min", "2 d". */
export function readHours(text: string): Read {
  const trimmed = text.trim();
  const clock = /^(\d+):(\d{1,2})$/.exec(trimmed);
  if (clock) {
    const minutes = Number(clock[2]);
    if (minutes > 59) return { kind: "refused", why: "an hour has 60 minutes" };
    return { kind: "number", value: Number(clock[1]) + minutes / 60 };
  }
  const bare = readNumber(trimmed);
  if (bare.kind !== "refused" || bare.why !== NOT_A_NUMBER) return bare;
  const parts = SPAN.exec(trimmed)?.groups;
  if (!parts) return { kind: "refused", why: "not a time: write 1.5 h, 1:30 or 90 min" };
  let hours = 0;
  for (const [part, each] of [
    [parts.d, 24],
    [parts.h, 1],
    [parts.m, 1 / 60],
  ] as const) {
    if (!part) continue;
    const read = readNumber(part);
    if (read.kind !== "number") return read;
    hours += read.value * each;
  }
  return { kind: "number", value: hours };
}
