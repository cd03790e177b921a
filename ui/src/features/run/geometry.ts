/** Where a run's points, hours and flags stand. Pure. */

import { bisector } from "d3-array";

/** The stretch of the run in sight. [h] */
export interface View {
  from: number;
  to: number;
}

export const MIN_SPAN_H = 0.05;

/** Zoom about an hour; never beyond the run. */
export function zoomed(view: View, whole: View, at: number, factor: number): View {
  const span = Math.min(
    Math.max((view.to - view.from) * factor, MIN_SPAN_H),
    whole.to - whole.from,
  );
  const share = (at - view.from) / (view.to - view.from || 1);
  return within({ from: at - share * span, to: at + (1 - share) * span }, whole);
}

/** Move the view by hours; never beyond the run. */
export const panned = (view: View, whole: View, by: number): View =>
  within({ from: view.from + by, to: view.to + by }, whole);

function within(view: View, whole: View): View {
  const span = Math.min(view.to - view.from, whole.to - whole.from);
  const from = Math.min(Math.max(view.from, whole.from), whole.to - span);
  return { from, to: from + span };
}

const left = bisector<number, number>((hour) => hour).left;
const right = bisector<number, number>((hour) => hour).right;

/** Points to draw: those in sight and one to each side; of more than two a pixel the first, the
 * last, the lowest and the highest, so that no peak is lost. */
export function inSight(
  hours: readonly number[],
  values: readonly number[],
  view: View,
  pixels: number,
): number[] {
  const first = Math.max(left(hours, view.from) - 1, 0);
  const last = Math.min(right(hours, view.to), hours.length - 1);
  const count = last - first + 1;
  if (count <= 2 * pixels) return Array.from({ length: Math.max(count, 0) }, (_, i) => first + i);
  const kept: number[] = [];
  const width = (view.to - view.from) / pixels;
  let at = first;
  while (at <= last) {
    const end = (hours[at] ?? 0) + width;
    let low = at;
    let high = at;
    let next = at;
    while (next <= last && (hours[next] ?? 0) <= end) {
      if ((values[next] ?? 0) < (values[low] ?? 0)) low = next;
      if ((values[next] ?? 0) > (values[high] ?? 0)) high = next;
      next += 1;
    }
    kept.push(...new Set([at, Math.min(low, high), Math.max(low, high), next - 1]));
    at = next;
  }
  return kept;
}

/** A column at an hour, straight between its points; the later one where two meet. */
export function valueAt(hours: readonly number[], values: readonly number[], at: number): number {
  const after = right(hours, at);
  const low = Math.max(after - 1, 0);
  const high = Math.min(after, hours.length - 1);
  const [from, to] = [hours[low] ?? 0, hours[high] ?? 0];
  const share = to > from ? Math.min(Math.max((at - from) / (to - from), 0), 1) : 0;
  const [a, b] = [values[low] ?? 0, values[high] ?? 0];
  return a + (b - a) * share;
}

const STEPS = [0.25, 0.5, 1, 2, 3, 6, 12, 24, 48, 96, 168, 336, 720];

/** Hours of the run at which the clock is written: even times of day. */
export function clockTicks(view: View, startsAt: number, most: number): number[] {
  const step = STEPS.find((one) => (view.to - view.from) / one <= most) ?? 1440;
  const first = Math.ceil((view.from + startsAt) / step - 1e-9) * step - startsAt;
  const ticks: number[] = [];
  for (let at = first; at <= view.to + 1e-9; at += step) ticks.push(at);
  return ticks;
}

/** From when to when it is night by the clock. [h] */
export interface Night {
  dusk_h: number;
  dawn_h: number;
}

/** Nights in sight. */
export function nights(view: View, startsAt: number, { dusk_h, dawn_h }: Night): View[] {
  const found: View[] = [];
  const firstDay = Math.floor((view.from + startsAt) / 24) - 1;
  for (let day = firstDay; day * 24 - startsAt < view.to; day += 1) {
    const night = { from: day * 24 + dusk_h - startsAt, to: (day + 1) * 24 + dawn_h - startsAt };
    if (night.to > view.from && night.from < view.to) {
      found.push({ from: Math.max(night.from, view.from), to: Math.min(night.to, view.to) });
    }
  }
  return found;
}
