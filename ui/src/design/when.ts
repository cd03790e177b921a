/** When a load runs, as the document says it. Pure. */

import type { When } from "../api/types";

/** Hours from one time of day to another; past midnight where it ends earlier. */
const lengthOf = (from: number, to: number) => (to - from + 24) % 24 || 24;

export function hoursOf(when: When): number {
  if (when.kind !== "windows") return when.hours;
  return when.windows.reduce((sum, span) => sum + lengthOf(span.from_h, span.to_h), 0);
}

/**
 * Other hours a day: windows keep their beginnings and grow or shrink alike. What is no part of a
 * day cannot be windows: it becomes plain hours, which the server refuses with its reason.
 */
export function withHours(when: When, hours: number): When {
  if (when.kind !== "windows") return { ...when, hours };
  if (!(hours > 0 && hours <= 24)) return { kind: "hours", hours };
  const times = hours / hoursOf(when);
  return {
    kind: "windows",
    windows: when.windows.map(({ from_h, to_h }) => ({
      from_h,
      to_h: tidy((from_h + lengthOf(from_h, to_h) * times) % 24),
    })),
  };
}

const tidy = (hour: number) => Math.round(hour * 1e4) / 1e4;

/** Spans as people write them: 19:00-22:30, 23-1. */
export function writeSpans(when: When): string {
  if (when.kind === "at") return clock(when.at_h);
  if (when.kind === "hours") return "";
  return when.windows.map((span) => `${clock(span.from_h)}-${clock(span.to_h)}`).join(", ");
}

const clock = (hour: number) => {
  const minutes = Math.round(hour * 60);
  return `${Math.floor(minutes / 60)}:${String(minutes % 60).padStart(2, "0")}`;
};

function readClock(text: string): number | null {
  const found = /^(\d{1,2})(?:[:.h](\d{2}))?$/.exec(text.trim());
  if (!found) return null;
  if (Number(found[2] ?? 0) > 59) return null;
  const hour = Number(found[1]) + Number(found[2] ?? 0) / 60;
  return hour <= 24 ? hour : null;
}

/** Times of day as typed: empty for any time, 20:30 for once a day, 19-22 for windows. */
export function readSpans(text: string, hours: number): When | string {
  if (!text.trim()) return { kind: "hours", hours };
  const parts = text.split(/[,;]/).map((part) => part.split(/[-–]/));
  const first = parts[0]?.[0] ?? "";
  if (parts.length === 1 && parts[0]?.length === 1) {
    const at_h = readClock(first);
    if (at_h === null || at_h >= 24) return `“${first.trim()}” is not a time of day`;
    return { kind: "at", at_h, hours };
  }
  const windows = [];
  for (const [from = "", to = "", ...more] of parts) {
    const from_h = readClock(from);
    const to_h = readClock(to);
    if (from_h === null || to_h === null || more.length) {
      return `“${[from, to, ...more].join("-")}” is not a span like 19:00-22:30`;
    }
    windows.push({ from_h, to_h });
  }
  return { kind: "windows", windows };
}
