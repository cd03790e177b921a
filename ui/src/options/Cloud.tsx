import { scaleLinear, scaleSqrt } from "d3-scale";
import type { Found } from "../api/types";
import { hours, number } from "../units/format";

const W = 560;
const H = 250;
const PAD = { left: 62, right: 14, top: 12, bottom: 34 };
const COLOURS: Record<number, string> = {
  12: "var(--stone-0)",
  24: "var(--river)",
  48: "var(--stone-7)",
};

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
      {y.ticks(4).map((tick) => (
        <g key={tick}>
          <line x1={PAD.left} x2={W - PAD.right} y1={y(tick)} y2={y(tick)} stroke="var(--line)" />
          <text x={PAD.left - 6} y={y(tick) + 4} fontSize={11} textAnchor="end" fill="var(--soft)">
            {hours(tick)}
          </text>
        </g>
      ))}
      {x.ticks(6).map((tick) => (
        <text
          key={tick}
          x={x(tick)}
          y={H - 16}
          fontSize={11}
          textAnchor="middle"
          fill="var(--soft)"
        >
          {number(tick, 4)}
        </text>
      ))}
      <text x={W - PAD.right} y={H - 3} fontSize={11} textAnchor="end" fill="var(--soft)">
        price, in your own money
      </text>
      <line
        x1={PAD.left}
        x2={W - PAD.right}
        y1={y(goal)}
        y2={y(goal)}
        stroke="var(--moss)"
        strokeDasharray="5 4"
      />
      <text x={W - PAD.right} y={y(goal) - 4} fontSize={11} textAnchor="end" fill="var(--moss)">
        goal {hours(goal)}
      </text>
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
            fill={COLOURS[one.system_v] ?? "var(--stone-4)"}
            fillOpacity={one.strategy === "DC first" ? 0.9 : 0.35}
            stroke={chosen === one.key ? "var(--ink)" : COLOURS[one.system_v]}
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
