import { scaleLinear } from "d3-scale";
import { line } from "d3-shape";
import { useRef } from "react";
import type { Refill } from "../../api/types";
import { useRoom } from "../../drawing/use-room";
import { hours, number } from "../../lib/format";
import { SOURCE_COLOURS } from "../../pictures/sources";

const LEFT = 36;
const TOP = 16;
const HEIGHT = 150;
// The sun takes days where an engine takes hours: no more than this is drawn. [h]
const MAX_H = 72;
const DASHES = [undefined, "6 3", "2 3", "8 3 2 3"];

/** Amps into the store over hours, from a fifth of its charge, by each way alone. */
export function FillChart({ refill }: { refill: Refill }) {
  const frame = useRef<HTMLDivElement>(null);
  const width = Math.max(useRoom(frame), 260);
  // The frame is there in any case: its width is measured as it is mounted.
  if (!refill.fills.length) {
    return (
      <div ref={frame} className="text-soft text-sm">
        Nothing charges it as it is connected now.
      </div>
    );
  }
  const last = Math.max(...refill.fills.map((one) => one.hours.at(-1) ?? 0), 1);
  const end = Math.min(last * 1.05, MAX_H);
  const most = Math.max(...refill.fills.flatMap((one) => one.amps), 1) * 1.1;
  const x = scaleLinear([0, end], [LEFT, width - 8]);
  const y = scaleLinear([0, most], [HEIGHT, TOP]);
  return (
    <div ref={frame} data-part="fills">
      <svg
        width={width}
        height={HEIGHT + 24}
        role="img"
        aria-label={refill.fills.map((one) => one.says).join(". ")}
      >
        <text x={4} y={12} fontSize={11.5} fill="var(--soft)">
          A into it
        </text>
        {y.ticks(3).map((tick) => (
          <g key={tick}>
            <line
              x1={LEFT}
              x2={width - 8}
              y1={y(tick)}
              y2={y(tick)}
              stroke="var(--line)"
              strokeDasharray="1 4"
            />
            <text x={LEFT - 6} y={y(tick) + 4} fontSize={11} textAnchor="end" fill="var(--soft)">
              {number(tick)}
            </text>
          </g>
        ))}
        {x.ticks(5).map((tick) => (
          <text
            key={tick}
            x={x(tick)}
            y={HEIGHT + 16}
            fontSize={11}
            textAnchor="middle"
            fill="var(--soft)"
          >
            {hours(tick)}
          </text>
        ))}
        {refill.fills.map((one, n) => (
          <path
            key={one.link}
            d={pathOf(one, end, x, y)}
            fill="none"
            stroke={SOURCE_COLOURS[one.kind]}
            strokeWidth={2}
            strokeDasharray={DASHES[n % DASHES.length]}
          />
        ))}
      </svg>
      <ul className="text-sm">
        {refill.fills.map((one, n) => (
          <li key={one.link} className="flex items-center gap-2 py-0.5" data-fill={one.kind}>
            <svg width="26" height="8" aria-hidden="true">
              <line
                x1="0"
                x2="26"
                y1="4"
                y2="4"
                strokeWidth="2.5"
                stroke={SOURCE_COLOURS[one.kind]}
                strokeDasharray={DASHES[n % DASHES.length]}
              />
            </svg>
            {one.says}
          </li>
        ))}
      </ul>
    </div>
  );
}

type Scale = (value: number) => number;

function pathOf(one: Refill["fills"][number], end: number, x: Scale, y: Scale): string {
  const kept = one.hours.flatMap((hour, n): [number, number][] =>
    hour <= end ? [[hour, Math.max(one.amps[n] ?? 0, 0)]] : [],
  );
  return (
    line<[number, number]>()
      .x(([hour]) => x(hour))
      .y(([, amps]) => y(amps))(kept) ?? ""
  );
}
