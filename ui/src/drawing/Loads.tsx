import type { Load } from "../api/types";
import { quantity } from "../lib/format";
import { SEVERITIES } from "../pictures/severities";
import { stoneOf } from "../pictures/stones";
import { Strip, Thing } from "./Boxes";
import { type PlacedFold, type PlacedLoad, ROW, STRIP_W, WATTS_X } from "./placed";
import { useDrawn, worstOf } from "./use-drawn";

interface LoadLineProps {
  place: PlacedLoad;
  load: Load;
  narrow: boolean;
  strip: boolean;
}

/** A load: its stone, name and watts; its strip where it states a window. */
export function LoadLine({ place, load, narrow, strip }: LoadLineProps) {
  const { evaluation, selected, changed } = useDrawn();
  const row = evaluation.loads.find((one) => one.id === load.id);
  const at = evaluation.loads.findIndex((one) => one.id === load.id);
  const worst = worstOf(evaluation.findings, load.id);
  const watts = quantity((row?.one_w ?? 0) * load.count, "W");
  const count = load.count > 1 ? ` ×${load.count}` : "";
  const wattsX = narrow ? place.x + place.w - 4 : place.x + WATTS_X;
  const room = Math.floor((wattsX - place.x - 18 - watts.length * 6.5 - (worst ? 16 : 0)) / 6.3);
  const name =
    load.name.length + count.length > room ? cutTo(load.name, room - count.length) : load.name;
  return (
    <Thing id={load.id} words={`${load.name}${count}, ${watts}`}>
      <rect
        x={place.x - 5}
        y={place.y - 4}
        width={(narrow ? place.w : WATTS_X + 5) + 4}
        height={ROW - 3}
        rx={4}
        fill={selected === load.id ? "var(--river-wash)" : "transparent"}
        stroke={changed.has(load.id) ? "var(--moss)" : "transparent"}
        strokeWidth={2}
        strokeDasharray="6 3"
        className="ring"
      />
      <rect
        x={place.x}
        y={place.y + 3}
        width={11}
        height={11}
        rx={4}
        fill={stoneOf(Math.max(at, 0))}
      />
      <text
        x={place.x + 17}
        y={place.y + 13.5}
        fontSize={13}
        fontWeight={worst ? 600 : 400}
        fill={worst ? `var(--${worst.severity})` : "var(--ink)"}
      >
        {worst ? `${SEVERITIES[worst.severity].shape} ` : ""}
        {name}
        {count}
        {name === load.name ? null : <title>{load.name}</title>}
      </text>
      <text x={wattsX} y={place.y + 13.5} fontSize={13} textAnchor="end" fill="var(--soft)">
        {watts}
      </text>
      {strip ? <Strip subject={load.id} x={place.stripX} y={place.stripY} w={STRIP_W} /> : null}
    </Thing>
  );
}

const cutTo = (text: string, most: number) => `${text.slice(0, Math.max(most - 1, 3)).trim()}…`;

interface FoldLineProps {
  place: PlacedFold;
  onToggle: (rail: string) => void;
}

/** Folds the rest of a rail's loads away, or opens them. */
export function FoldLine({ place, onToggle }: FoldLineProps) {
  const words = place.hidden ? `and ${place.hidden} more loads` : "fewer";
  return (
    <g
      role="button"
      tabIndex={0}
      aria-expanded={!place.hidden}
      data-fold={place.rail}
      className="thing cursor-pointer"
      onClick={() => onToggle(place.rail)}
      onKeyDown={(event) => {
        if (event.key !== "Enter" && event.key !== " ") return;
        event.preventDefault();
        onToggle(place.rail);
      }}
    >
      <rect
        x={place.x - 5}
        y={place.y - 4}
        width={140}
        height={ROW - 3}
        rx={4}
        fill="transparent"
        className="ring"
      />
      <text x={place.x + 17} y={place.y + 13.5} fontSize={13} fill="var(--river)">
        {place.hidden ? "▸" : "▾"} {words}
      </text>
    </g>
  );
}
