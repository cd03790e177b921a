import type { Refill } from "../../api/types";
import { quantity } from "../../lib/format";
import { SOURCE_COLOURS } from "../../pictures/sources";

const LEFT = 36;
const RIGHT = 206;
const RIM = 92;
const FLOOR = 236;

/** The jar with its spouts: what a mean day pours in, to the scale of what it takes out. */
export function Spouts({ refill }: { refill: Refill }) {
  const spouts = refill.inflows.filter((one) => one.kind !== "store");
  const most = Math.max(refill.day_in_wh, refill.day_out_wh, 1) * 1.12;
  const y = (wh: number) => FLOOR - ((FLOOR - RIM) * wh) / most;
  const level = y(refill.day_in_wh);
  const takes = y(refill.day_out_wh);
  const step = (RIGHT - LEFT) / Math.max(spouts.length, 1);
  const words = `A mean day pours in ${quantity(refill.day_in_wh, "Wh")}: ${spouts.map((one) => `${one.name} ${quantity(one.day_wh, "Wh")}`).join(", ")}. What goes out: ${quantity(refill.day_out_wh, "Wh")}.`;
  return (
    <figure data-part="spouts">
      <svg viewBox="0 0 300 250" className="w-full" role="img" aria-label={words}>
        <rect
          x={LEFT}
          width={RIGHT - LEFT}
          y={level}
          height={FLOOR - level}
          fill="var(--water)"
          rx={8}
        />
        {spouts.map((one, n) => {
          const x = LEFT + step * (n + 0.5);
          const wide = 4 + 18 * (one.day_wh / most);
          return (
            <g key={one.id}>
              <text x={x} y={12} {...NAME} fill="var(--ink)">
                {one.name.length > 15 ? `${one.name.slice(0, 14)}…` : one.name}
              </text>
              <text x={x} y={27} fontSize={12} textAnchor="middle" fill="var(--soft)">
                {quantity(one.day_wh, "Wh")}
                {one.litres ? ` · ${quantity(one.litres, "l", 2)}` : ""}
              </text>
              {one.day_wh > 0 ? (
                <rect
                  x={x - wide / 2}
                  width={wide}
                  y={56}
                  height={Math.max(level - 52, 4)}
                  fill={SOURCE_COLOURS[one.kind]}
                  opacity={0.8}
                />
              ) : null}
              <path
                d={`M${x - 17} 36h34l-7 20h-20Z`}
                fill="var(--card)"
                stroke={SOURCE_COLOURS[one.kind]}
                strokeWidth={2}
              />
            </g>
          );
        })}
        <path
          d={`M${LEFT - 2} ${RIM - 8}V${FLOOR - 16}q0 18 18 18H${RIGHT - 16}q18 0 18 -18V${RIM - 8}`}
          fill="none"
          stroke="var(--glass)"
          strokeWidth={2.2}
        />
        <line
          x1={LEFT - 8}
          x2={RIGHT + 10}
          y1={takes}
          y2={takes}
          stroke="var(--stop)"
          strokeDasharray="5 3"
          strokeWidth={1.6}
        />
        <text x={RIGHT + 14} y={takes - 2} fontSize={12} fill="var(--stop)">
          goes out
        </text>
        <text x={RIGHT + 14} y={takes + 12} fontSize={12} fontWeight={700} fill="var(--stop)">
          {quantity(refill.day_out_wh, "")}
        </text>
        <text
          x={(LEFT + RIGHT) / 2}
          y={Math.min((level + FLOOR) / 2 + 5, FLOOR - 10)}
          {...NAME}
          fontSize={14}
          fill="var(--ink)"
        >
          {quantity(refill.day_in_wh, "Wh")} a day in
        </text>
      </svg>
      <figcaption className="text-center text-soft text-xs">
        What a mean day of this week pours in, and what goes out of the stores. What loads miss once
        they stop is not in it.
      </figcaption>
    </figure>
  );
}

const NAME = { fontSize: 12.5, fontWeight: 700, textAnchor: "middle" as const };
