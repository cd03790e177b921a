/** Where the words of cut-outs and restarts stand beside their lines. Pure. */

import { spread } from "../../verdict/jar-geometry";

/** Width of a letter, and how far a curve stays off a label. [px] */
const LETTER_W = 5.9;
const CLEAR = 12;

export interface Label {
  text: string;
  /** Where it would stand. [px] */
  height: number;
}

export interface PlacedLabel {
  x: number;
  y: number;
  anchor: "start" | "end";
}

interface Frame {
  left: number;
  right: number;
  top: number;
  bottom: number;
}

/** Labels at the right end of their lines; at the left where the curve would run through them. */
export function labelsOf(
  labels: readonly Label[],
  curve: (x: number) => number,
  { left, right, top, bottom }: Frame,
): PlacedLabel[] {
  const atLeft = labels.map(({ text, height }) => {
    const wide = text.length * LETTER_W;
    const there = nearest(curve, height, right - wide, right);
    return there < CLEAR && nearest(curve, height, left, left + wide) > there;
  });
  const placed: PlacedLabel[] = [];
  for (const side of [true, false]) {
    const here = [...labels.keys()].filter((at) => atLeft[at] === side);
    const heights = spread(
      here.map((at) => labels[at]?.height ?? 0),
      CLEAR,
      top,
      bottom,
    );
    here.forEach((at, n) => {
      placed[at] = {
        x: side ? left : right,
        y: heights[n] ?? 0,
        anchor: side ? "start" : "end",
      };
    });
  }
  return placed;
}

/** How near a curve comes to a height over a stretch, at nine places of it. [px] */
function nearest(curve: (x: number) => number, height: number, from: number, to: number): number {
  const places = Array.from({ length: 9 }, (_, k) => from + ((to - from) * k) / 8);
  return Math.min(...places.map((x) => Math.abs(curve(x) - height)));
}
