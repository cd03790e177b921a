import { readFileSync } from "node:fs";
import { expect, test } from "vitest";

const styles = readFileSync("src/app/styles.css", "utf8");

/** The colours of a theme, by name. */
function tokens(selector: string): Record<string, string> {
  const block = styles.slice(styles.indexOf(`\n${selector} {`)).split("}")[0] ?? "";
  return Object.fromEntries(
    [...block.matchAll(/--([\w-]+): (#[0-9a-f]{6});/g)].map(([, name, value]) => [name, value]),
  );
}

/** Relative luminance. WCAG 2.2, definition. */
function luminance(colour: string): number {
  const [r = 0, g = 0, b = 0] = [1, 3, 5]
    .map((at) => Number.parseInt(colour.slice(at, at + 2), 16) / 255)
    .map((c) => (c <= 0.04045 ? c / 12.92 : ((c + 0.055) / 1.055) ** 2.4));
  return 0.2126 * r + 0.7152 * g + 0.0722 * b;
}

function contrast(one: string, other: string): number {
  const [low = 0, high = 0] = [luminance(one), luminance(other)].sort((a, b) => a - b);
  return (high + 0.05) / (low + 0.05);
}

const GROUNDS = ["paper", "bench", "card"];
const LETTERS = ["ink", "soft", "river", "stop", "fix", "watch", "moss", "plus"];
// Frames of fields, wires, glass, hatching: what is seen as a line.
const THIN = ["edge", "glass", "hatch", "sun", "engine", "socket"];

test("black on white is 21 to 1 (WCAG 2.2)", () => {
  expect(contrast("#000000", "#ffffff")).toBeCloseTo(21, 5);
});

test.each([
  ["light", ":root"],
  ["dark", '[data-theme="dark"]'],
])(
  "%s: letters have 4.5 to 1 and thin parts 3 to 1 on every ground (WCAG 1.4.3, 1.4.11)",
  (_, of) => {
    const theme = tokens(of);
    const low = GROUNDS.flatMap((ground) =>
      [...LETTERS.map((x) => [x, 4.5] as const), ...THIN.map((x) => [x, 3] as const)]
        .map(([name, least]) => ({
          name,
          ground,
          least,
          is: contrast(theme[name] ?? "", theme[ground] ?? ""),
        }))
        .filter(({ is, least }) => !(is >= least)),
    );
    expect(low).toEqual([]);
  },
);
