import { renderToStaticMarkup } from "react-dom/server";
import textFont from "../../node_modules/@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2?inline";
import headFont from "../../node_modules/@fontsource-variable/bricolage-grotesque/files/bricolage-grotesque-latin-wght-normal.woff2?inline";
import type { Design, Evaluation } from "../api/types";
import styles from "../app/styles.css?raw";
import { layOut } from "../drawing/layout";
import { System } from "../drawing/System";
import { DrawnContext } from "../drawing/use-drawn";

/** What a picture is made of. */
export interface Asked {
  design: Design;
  evaluation: Evaluation;
  /** What the picture is called; it is written below it, before the lines. */
  title: string;
  /** Sentences below the drawing. */
  lines: string[];
}

/** Room for what each wire says. [px] */
const ROOM = 1160;
const MARGIN = 16;
const LINE = 16;
const NOTHING: ReadonlySet<string> = new Set();
const ignore = () => undefined;

const TEXT = "Atkinson Hyperlegible Next Variable";
const FONTS = [
  [TEXT, textFont],
  ["Bricolage Grotesque Variable", headFont],
] as const;
const FACES = FONTS.map(
  ([name, data]) =>
    `@font-face{font-family:"${name}";font-weight:200 800;src:url(${data}) format("woff2")}`,
).join("");

/** A design's drawing as SVG: all its loads, colours and fonts within it, on white. */
export function pictureOf({ design, evaluation, title, lines }: Asked): string {
  const strips = new Set(evaluation.joints.map((joint) => joint.subject));
  const all = new Set(["", ...[...design.stores, ...design.stages].map((one) => one.id)]);
  for (const store of design.stores) {
    if (store.kind === "station") for (const { id } of store.outlets) all.add(id);
  }
  const placed = { ...layOut(design, { room: ROOM, unfolded: all, strips }), folds: [] };
  const under = placed.height + 2 * MARGIN + LINE;
  const [width, height] = [placed.width + 2 * MARGIN, under + LINE * (lines.length + 1)];
  const drawn = {
    design,
    evaluation,
    moment: null,
    selected: null,
    reached: null,
    changed: NOTHING,
    lengths: true,
    onSelect: ignore,
    onOpen: ignore,
  };
  const markup = renderToStaticMarkup(
    <svg
      xmlns="http://www.w3.org/2000/svg"
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      fontFamily={`'${TEXT}', sans-serif`}
    >
      <title>{title}</title>
      <rect width={width} height={height} fill="var(--paper)" />
      <g transform={`translate(${MARGIN} ${MARGIN})`}>
        <DrawnContext value={drawn}>
          <System placed={placed} onToggle={ignore} />
        </DrawnContext>
      </g>
      <text x={MARGIN} y={under} fontSize={14} fontWeight={600} fill="var(--ink)">
        {title}
      </text>
      {lines.map((line, n) => (
        <text key={line} x={MARGIN} y={under + LINE * (n + 1)} fontSize={11} fill="var(--ink)">
          {line}
        </text>
      ))}
    </svg>,
  );
  return withFonts(plain(markup));
}

const withFonts = (svg: string) => svg.replace("<title>", `<style>${FACES}</style><title>`);

/** Markup that needs no style sheet: colours as values, a halo as a second text below the first. */
export function plain(markup: string): string {
  return markup
    .replace(/<text(?=[^>]* class="halo)[^>]*>.*?<\/text>/gs, (text) => haloOf(text) + text)
    .replace(/ (class|role|tabindex|data-[\w-]+|aria-[\w-]+)="[^"]*"/g, "")
    .replace(/var\((--[\w-]+)\)/g, (_, name: string) => LOOK.get(name) ?? "currentColor");
}

/** The letters' ground, where they stand over lines. */
const haloOf = (text: string) =>
  text
    .replace(/ fill="[^"]*"/g, "")
    .replace(
      "<text",
      '<text fill="none" stroke="#ffffff" stroke-width="4" stroke-linejoin="round"',
    );

/** What the names of colours and fonts stand for in the light theme; every ground is white. */
const LOOK = new Map(
  [...styles.matchAll(/^ {2}(--[\w-]+): ([^;]+);/gm)]
    .map(([, name = "", value = ""]) => [name, value.replaceAll('"', "'")] as const)
    .reverse(),
);
for (const ground of ["--paper", "--bench", "--card"]) LOOK.set(ground, "#ffffff");
