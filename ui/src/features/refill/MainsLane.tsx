import { type PointerEvent, useState } from "react";
import type { Refill } from "../../api/types";
import { useDesign } from "../../design/store";
import { SOURCE_COLOURS } from "../../pictures/sources";
import { withOutage } from "./outages";

const DAY_H = 24;
const WEEK_H = 168;
/** What is drawn with the pointer is taken to the half hour. */
const STEP_H = 0.5;

interface MainsLaneProps {
  refill: Refill;
  y: number;
  height: number;
  x: (hour: number) => number;
  hourAt: (px: number) => number;
}

/** When there is mains in the week. Drawing over it with the pointer puts an outage there. */
export function MainsLane({ refill, y, height, x, hourAt }: MainsLaneProps) {
  const change = useDesign((state) => state.change);
  const [drawn, setDrawn] = useState<{ from: number; to: number } | null>(null);
  const at = (event: PointerEvent<SVGRectElement>) => {
    const left = event.currentTarget.ownerSVGElement?.getBoundingClientRect().left ?? 0;
    const hour = Math.round(hourAt(event.clientX - left) / STEP_H) * STEP_H;
    return Math.min(Math.max(hour, 0), WEEK_H);
  };
  const end = () => {
    setDrawn(null);
    if (!drawn || drawn.from === drawn.to) return;
    change("an outage of the mains", (d) => ({
      ...d,
      week: { ...d.week, days: withOutage(d.week.days, drawn.from, drawn.to) },
    }));
  };
  const gaps = refill.days.flatMap((day, d) =>
    (day.mains ? day.outages : [{ from_h: 0, to_h: DAY_H }]).map((span) => ({
      from: DAY_H * d + span.from_h,
      to: DAY_H * d + span.to_h,
    })),
  );
  return (
    <g data-part="mains-lane">
      <text x={x(0) - 6} y={y + height - 2} fontSize={11.5} textAnchor="end" fill="var(--soft)">
        mains
      </text>
      <rect
        x={x(0)}
        y={y}
        width={x(WEEK_H) - x(0)}
        height={height}
        fill={SOURCE_COLOURS.mains}
        opacity={0.75}
      />
      {gaps.map(({ from, to }) => (
        <rect
          key={from}
          x={x(from)}
          y={y}
          width={x(to) - x(from)}
          height={height}
          fill="var(--paper)"
          stroke="var(--edge)"
          strokeDasharray="2 2"
          data-gap={`${from}-${to}`}
        />
      ))}
      {drawn ? (
        <rect
          x={x(Math.min(drawn.from, drawn.to))}
          y={y - 3}
          width={Math.abs(x(drawn.to) - x(drawn.from))}
          height={height + 6}
          fill="var(--stop)"
          opacity={0.35}
        />
      ) : null}
      <rect
        x={x(0)}
        y={y - 5}
        width={x(WEEK_H) - x(0)}
        height={height + 10}
        fill="transparent"
        className="cursor-crosshair touch-none"
        data-part="draw-outage"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          setDrawn({ from: at(event), to: at(event) });
        }}
        onPointerMove={(event) => {
          if (drawn) setDrawn({ ...drawn, to: at(event) });
        }}
        onPointerUp={end}
        onPointerCancel={() => setDrawn(null)}
      >
        <title>Draw over it where the mains fails</title>
      </rect>
    </g>
  );
}
