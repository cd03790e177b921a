/** Where things lie in the jar. Pure: the sums come from the server, this only places them. */

import type { Jar } from "../api/types";

export interface Band {
  kind: Jar["layers"][number]["kind"];
  subject: string;
  name: string;
  wh: number;
  /** Share of it that is wanted and not served. */
  missed: number;
  /** Top and bottom inside the jar; the same if all of it lies over the rim. */
  top: number;
  bottom: number;
}

export interface Laid {
  keptTop: number;
  usableTop: number;
  bands: Band[];
  /** Energy over the rim, and whose stones lie there. [Wh] */
  over: number;
  overSubject: string;
}

const SETTLE: Record<Band["kind"], number> = { loss: 0, idle: 1, standby: 1, stone: 2 };

/** Lay a day's use into a jar whose inside is `height` tall from rim (0) to floor. */
export function layOut(jar: Jar, height: number): Laid {
  // Without a store, on a vehicle's engine alone, the day's use fills it.
  const whole = jar.label_wh || jar.layers.reduce((sum, layer) => sum + layer.wh, 0);
  const perWh = whole > 0 ? height / whole : 0;
  const keptTop = height - jar.reserve_wh * perWh;
  const layers = [...jar.layers].sort((a, b) => SETTLE[a.kind] - SETTLE[b.kind]);
  let level = keptTop;
  let over = 0;
  let overSubject = "";
  const bands = layers.map((layer) => {
    const bottom = Math.max(level, 0);
    level -= layer.wh * perWh;
    const top = Math.max(level, 0);
    if (level < 0) {
      const beyond = Math.min(-level, layer.wh * perWh);
      over += beyond / perWh;
      overSubject ||= layer.subject;
    }
    return { ...layer, top, bottom };
  });
  return { keptTop, usableTop: keptTop - jar.usable_wh * perWh, bands, over, overSubject };
}

export interface Pebble {
  x: number;
  y: number;
  rx: number;
  ry: number;
  turn: number;
  shade: number;
}

/** Pebbles that fill a band, the same for the same seed. */
export function pebbles(
  seed: string,
  left: number,
  right: number,
  top: number,
  bottom: number,
  size: number,
): Pebble[] {
  const random = randomFrom(seed);
  const found: Pebble[] = [];
  const height = bottom - top;
  const rows = Math.max(Math.round(height / (size * 0.8)), 1);
  const ry = Math.min(height / rows / 1.55, size * 0.62);
  for (let row = 0; row < rows; row += 1) {
    const y = bottom - ((row + 0.5) * height) / rows;
    for (let x = left + (row % 2) * size * 0.55; x < right + size / 2; x += size * 1.02) {
      found.push({
        x: x + (random() - 0.5) * size * 0.35,
        y: y + (random() - 0.5) * ry * 0.3,
        rx: size * (0.5 + random() * 0.16),
        ry: ry * (0.88 + random() * 0.24),
        turn: (random() - 0.5) * 40,
        shade: random(),
      });
    }
  }
  return found;
}

/** Labels beside the jar, moved apart so that none covers another. */
export function spread(wanted: number[], gap: number, low: number, high: number): number[] {
  const order = wanted.map((y, index) => ({ y, index })).sort((a, b) => a.y - b.y);
  let at = low - gap;
  for (const label of order) {
    label.y = Math.max(label.y, at + gap);
    at = label.y;
  }
  let limit = high + gap;
  for (const label of order.reverse()) {
    label.y = Math.min(label.y, limit - gap);
    limit = label.y;
  }
  const placed = new Array<number>(wanted.length).fill(0);
  for (const label of order) placed[label.index] = label.y;
  return placed;
}

function randomFrom(seed: string): () => number {
  let state = 2166136261;
  for (const letter of seed) state = Math.imul(state ^ letter.charCodeAt(0), 16777619);
  return () => {
    state = Math.imul(state ^ (state >>> 15), 2246822519);
    state = Math.imul(state ^ (state >>> 13), 3266489917);
    state ^= state >>> 16;
    return (state >>> 0) / 4294967296;
  };
}
