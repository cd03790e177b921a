import { scaleLinear, scaleSqrt } from "d3-scale";
import type { Found } from "../../api/types";
import { Axes } from "./Axes";

const W = 560;
const H = 250;
const PAD = { left: 62, right: 14, top: 12, bottom: 34 };
const COLOURS: Record<number, string> = {
  12: "var(--stone-0)",
  24: "var(--river)",
  48: "var(--stone-7)",
};

const colourOf = (one: Found) => COLOURS[one.system_v ?? 0] ?? "var(--stone-4)";

interface CloudProps {
  found: readonly Found[];
  goal: number;
  horizon: number;
  chosen: string | null;
  onChoose: (key: string) => void;
}

/** Pebbles: price to the right, hours upward; as large as their mass. Colour by system volts. */
export function Cloud({ found, goal, horizon, chosen, onChoose }: CloudProps) {
  const shown = found.filter((one) => one.price !== null);
  if (!shown.length) return null;
  const prices = shown.map((one) => one.price ?? 0);
  const most = Math.max(...shown.map((one) => one.hours ?? horizon), goal * 1.2);
  const x = scaleLinear([0, Math.max(...prices) * 1.06 || 1], [PAD.left, W - PAD.right]).nice();
  const y = scaleLinear([0, most * 1.05], [H - PAD.bottom, PAD.top]).nice();
  const r = scaleSqrt([0, Math.max(...shown.map((one) => one.mass_kg ?? 1))], [2, 13]);
  return (
    <svg
      viewBox={`0 0 ${W} ${H}`}
      className="w-full max-w-170"
      role="img"
      aria-label={`${shown.length} systems by price and hours`}
      data-part="cloud"
    >
      <Axes x={x} y={y} height={H} goal={goal} unit="price, in your own money" goalAt="end" />
      {[...shown]
        .sort((a, b) => (b.mass_kg ?? 0) - (a.mass_kg ?? 0))
        .map((one) => (
          <ellipse
            key={one.key}
            role="button"
            tabIndex={-1}
            aria-label={one.title}
            cx={x(one.price ?? 0)}
            cy={y(one.hours ?? horizon)}
            rx={r(one.mass_kg ?? 1) * 1.15}
            ry={r(one.mass_kg ?? 1)}
            fill={colourOf(one)}
            fillOpacity={one.strategy === "DC first" ? 0.9 : 0.35}
            stroke={chosen === one.key ? "var(--ink)" : colourOf(one)}
            strokeWidth={chosen === one.key ? 3 : 1.2}
            className="cursor-pointer"
            onClick={() => onChoose(one.key)}
            onKeyDown={(event) => event.key === "Enter" && onChoose(one.key)}
          >
            <title>{one.title}</title>
          </ellipse>
        ))}
    </svg>
  );
}
