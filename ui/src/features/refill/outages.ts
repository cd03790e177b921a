/** Outages of the mains on the week: put on it by hand, each kept within its days. */

import type { Span, WeekDay } from "../../api/types";

const DAY_H = 24;

/** Spans that touch or lie over one another become one; the first begins first. */
export function united(spans: readonly Span[]): Span[] {
  const found: Span[] = [];
  for (const span of [...spans].sort((a, b) => a.from_h - b.from_h)) {
    const last = found.at(-1);
    if (last && span.from_h <= last.to_h) last.to_h = Math.max(last.to_h, span.to_h);
    else found.push({ ...span });
  }
  return found;
}

/** The days with no mains from one hour of the week to another, whichever is first. [h] */
export function withOutage(days: readonly WeekDay[], one: number, other: number): WeekDay[] {
  const [from, to] = one < other ? [one, other] : [other, one];
  return days.map((day, d) => {
    const span = { from_h: Math.max(from - DAY_H * d, 0), to_h: Math.min(to - DAY_H * d, DAY_H) };
    if (span.to_h <= span.from_h) return day;
    return { ...day, outages: united([...(day.outages ?? []), span]) };
  });
}

/** Outages of one day as they were typed; what goes past midnight lies on the next day too. */
export function typedOutages(
  days: readonly WeekDay[],
  day: number,
  spans: readonly Span[],
): WeekDay[] {
  const cleared = days.map((one, n) => (n === day ? { ...one, outages: [] } : one));
  return spans.reduce<WeekDay[]>((found, { from_h, to_h }) => {
    const begin = DAY_H * day + from_h;
    const end = DAY_H * day + (to_h > from_h ? to_h : DAY_H + to_h);
    const week = DAY_H * found.length;
    const rest = end > week ? withOutage(found, 0, end - week) : found;
    return withOutage(rest, begin, Math.min(end, week));
  }, cleared);
}
