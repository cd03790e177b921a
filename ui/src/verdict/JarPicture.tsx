import { memo, useId, useState } from "react";
import type { Jar } from "../api/types";
import { quantity } from "../lib/format";
import { stoneOf } from "../pictures/stones";
import { type Band, layOut, pebbles, spread } from "./jar-geometry";

const LEFT = 118;
const RIGHT = 268;
const RIM = 36;
const FLOOR = 238;

interface JarPictureProps {
  jar: Jar;
  /** Ids of the loads in their order: it gives their colours. */
  order: readonly string[];
  /** Small, as one of many: the jar alone, its words for screen readers. */
  small?: boolean;
}

/** A day's use in the jar: stones are loads, sand is idle and standby, water is loss. */
export const JarPicture = memo(function JarPicture({ jar, order, small }: JarPictureProps) {
  const [named, setNamed] = useState<string | null>(null);
  const clip = useId();
  const laid = layOut(jar, FLOOR - RIM);
  const shown = laid.bands.filter((band) => band.bottom - band.top > 0.4 || band.kind === "stone");
  const middles = shown.map((band) => RIM + (band.top + band.bottom) / 2);
  const reserve = RIM + (laid.keptTop + (FLOOR - RIM)) / 2;
  const usable = RIM + laid.usableTop;
  const labels = spread([...middles, reserve, usable], 13, RIM - 6, FLOOR);
  const beyond = jar.day_wh - jar.usable_wh;
  const words = `A day uses ${quantity(jar.day_wh, "Wh")} of ${quantity(jar.usable_wh, "Wh")} usable. ${laid.bands.map((band) => `${band.name} ${quantity(band.wh, "Wh")}`).join(", ")}.`;
  return (
    <figure data-jar={beyond > 0 ? "over" : "within"}>
      <svg
        viewBox={small ? "106 14 176 230" : "0 0 300 248"}
        className="w-full"
        role="img"
        aria-label={words}
      >
        <defs>
          <clipPath id={clip}>
            <path d={INSIDE} />
          </clipPath>
          <pattern
            id={`${clip}-kept`}
            width="7"
            height="7"
            patternUnits="userSpaceOnUse"
            patternTransform="rotate(45)"
          >
            <rect width="1.6" height="7" fill="var(--hatch)" />
          </pattern>
        </defs>
        <path d={INSIDE} fill="var(--card)" />
        <g clipPath={`url(#${clip})`}>
          <rect
            x={LEFT}
            y={RIM + laid.keptTop}
            width={RIGHT - LEFT}
            height={FLOOR - RIM - laid.keptTop}
            fill={`url(#${clip}-kept)`}
          />
          {laid.bands.map((band) => (
            <BandPicture
              key={`${band.kind}-${band.subject}`}
              band={band}
              colour={stoneOf(order.indexOf(band.subject))}
              faded={named !== null && named !== band.name}
              onName={setNamed}
            />
          ))}
        </g>
        {laid.over > 0 ? (
          <g data-part="heap">
            {pebbles("heap", 150, 232, RIM - 24, RIM - 3, 13).map((pebble) => (
              <ellipse
                key={`${pebble.x}`}
                cx={pebble.x}
                cy={pebble.y}
                rx={pebble.rx}
                ry={pebble.ry}
                fill={stoneOf(order.indexOf(laid.overSubject))}
                stroke="var(--stop)"
              />
            ))}
          </g>
        ) : null}
        <path d={OUTLINE} fill="none" stroke="var(--glass)" strokeWidth={2.2} />
        <path
          d={RIM_LINE}
          fill="none"
          stroke="var(--glass)"
          strokeWidth={4}
          strokeLinecap="round"
        />
        <line
          x1={LEFT - 8}
          x2={RIGHT + 10}
          y1={RIM + laid.usableTop}
          y2={RIM + laid.usableTop}
          stroke="var(--river)"
          strokeDasharray="4 3"
        />
        {(small ? [] : shown).map((band, index) => (
          <Label
            key={`${band.kind}-${band.subject}`}
            y={labels[index] ?? 0}
            to={middles[index] ?? 0}
            strong={named === band.name}
            text={`${short(band, shown)} ${quantity(band.wh, "")}`}
            whole={nameOf(band)}
          />
        ))}
        {small ? null : (
          <Label
            y={labels.at(-1) ?? 0}
            to={usable}
            text={`usable ${quantity(jar.usable_wh, "")}`}
            colour="var(--river)"
          />
        )}
        {jar.reserve_wh > 0 && !small ? (
          <Label
            y={labels[shown.length] ?? 0}
            to={reserve}
            text={`reserve ${quantity(jar.reserve_wh, "")}`}
          />
        ) : null}
      </svg>
      {small ? null : (
        <figcaption className="min-h-5 text-center text-soft text-xs" aria-live="off">
          {named ??
            (beyond > 0
              ? `A day uses ${quantity(beyond, "Wh")} more than is usable.`
              : jar.once_wh > 0
                ? `The first day of use, in Wh; ${quantity(jar.once_wh, "Wh")} of it run once.`
                : "One day of use, in Wh at the bank.")}
        </figcaption>
      )}
    </figure>
  );
});

// A straight body, so that height is energy, with rounded shoulders only at the floor.
const INSIDE = `M${LEFT} ${RIM}V${FLOOR - 16}q0 16 16 16H${RIGHT - 16}q16 0 16 -16V${RIM}Z`;
const OUTLINE = `M${LEFT - 2} ${RIM - 2}V${FLOOR - 16}q0 18 18 18H${RIGHT - 16}q18 0 18 -18V${RIM - 2}`;
const RIM_LINE = `M${LEFT - 7} ${RIM - 3}h9M${RIGHT - 2} ${RIM - 3}h9`;

interface BandPictureProps {
  band: Band;
  colour: string;
  faded: boolean;
  onName: (name: string | null) => void;
}

function BandPicture({ band, colour, faded, onName }: BandPictureProps) {
  // Rounded: where a band stands must not change its height by a hair and make its stones anew.
  const height = Math.round((band.bottom - band.top) * 100) / 100;
  const sand = band.kind === "idle" || band.kind === "standby";
  const ground = band.kind === "loss" ? "var(--water)" : sand ? "var(--sand)" : colour;
  // What is wanted and not served is pale.
  const missed = band.missed > MISSED_MATTERS ? band.missed : 0;
  const size = sand ? 3.4 : Math.min(Math.max(height * 0.55, 6), 15);
  return (
    // biome-ignore lint/a11y/noStaticElementInteractions: hovering names a stone; the label beside it says the same
    <g
      className="settles"
      style={{ transform: `translateY(${RIM + band.top}px)`, opacity: faded ? 0.45 : 1 }}
      onMouseEnter={() => onName(nameOf(band))}
      onMouseLeave={() => onName(null)}
      data-layer={band.kind}
      data-missed={missed > 0}
    >
      <rect
        x={LEFT}
        width={RIGHT - LEFT}
        height={Math.max(height, 0)}
        fill={ground}
        opacity={sand ? 0.55 : band.kind === "loss" ? 0.85 : 0.5}
      />
      {band.kind === "loss" || height < 1 ? null : (
        <Stones seed={band.subject} height={height} size={size} colour={ground} sand={sand} />
      )}
      {missed > 0 ? (
        <rect
          x={LEFT + (RIGHT - LEFT) * (1 - missed)}
          width={(RIGHT - LEFT) * missed}
          height={Math.max(height, 0)}
          fill="var(--card)"
          opacity={0.7}
          stroke="var(--fix)"
          strokeDasharray="3 2"
        />
      ) : null}
    </g>
  );
}

const MISSED_MATTERS = 0.005;

const nameOf = (band: Band) => {
  const missed =
    band.missed > MISSED_MATTERS ? `, ${quantity(band.missed, "share", 2)} missed` : "";
  return `${band.name}: ${quantity(band.wh, "Wh")} a day${missed}`;
};

interface StonesProps {
  seed: string;
  height: number;
  size: number;
  colour: string;
  sand: boolean;
}

/** The stones of a band. There are hundreds: they are made anew only when the band changes. */
const Stones = memo(function Stones({ seed, height, size, colour, sand }: StonesProps) {
  return pebbles(seed, LEFT, RIGHT, 0, height, size).map((stone) => (
    <ellipse
      key={`${stone.x}-${stone.y}`}
      cx={stone.x}
      cy={stone.y}
      rx={stone.rx}
      ry={stone.ry}
      transform={`rotate(${stone.turn} ${stone.x} ${stone.y})`}
      fill={colour}
      fillOpacity={sand ? 0.9 : 0.72 + stone.shade * 0.28}
      stroke={sand ? "none" : "var(--card)"}
      strokeWidth={0.7}
    />
  ));
});

interface LabelProps {
  y: number;
  to: number;
  text: string;
  /** Said in full where the text is cut. */
  whole?: string;
  strong?: boolean;
  colour?: string;
}

function Label({ y, to, text, whole, strong = false, colour = "var(--soft)" }: LabelProps) {
  return (
    <g className="settles">
      <path d={`M${LEFT - 14} ${y}L${LEFT - 3} ${to}`} stroke="var(--line)" fill="none" />
      <text
        x={LEFT - 17}
        y={y + 3.5}
        fontSize={11}
        textAnchor="end"
        fill={strong ? "var(--ink)" : colour}
      >
        {text}
        {whole ? <title>{whole}</title> : null}
      </text>
    </g>
  );
}

/** A name cut to its place; sand is only told apart where there is more than one of its kind. */
const short = ({ name, kind }: Band, all: readonly Band[]) => {
  const alone = all.filter((band) => band.kind === kind).length === 1;
  const plain = name.replace("Conversion loss", "loss");
  const first = plain.replace(/^(.*), (idle|standby)$/, (_, owner: string, what: string) =>
    alone ? what : `${owner.slice(0, 6).trim()}… ${what}`,
  );
  return first.length > 13 ? `${first.slice(0, 11).trim()}…` : first;
};
