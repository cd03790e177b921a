import type { ScaleLinear } from "d3-scale";
import { hours, number } from "../../lib/format";

interface AxesProps {
  x: ScaleLinear<number, number>;
  y: ScaleLinear<number, number>;
  height: number;
  goal: number;
  /** What stands along the bottom. */
  unit: string;
  goalAt: "start" | "end";
}

/** Hours upward, something to the right, and the goal as a line. */
export function Axes({ x, y, height, goal, unit, goalAt }: AxesProps) {
  const [left = 0, right = 0] = x.range();
  return (
    <>
      {y.ticks(4).map((tick) => (
        <g key={tick}>
          <line x1={left} x2={right} y1={y(tick)} y2={y(tick)} stroke="var(--line)" />
          <text x={left - 6} y={y(tick) + 4} fontSize={11} textAnchor="end" fill="var(--soft)">
            {hours(tick)}
          </text>
        </g>
      ))}
      {x.ticks(6).map((tick) => (
        <text
          key={tick}
          x={x(tick)}
          y={height - 17}
          fontSize={11}
          textAnchor="middle"
          fill="var(--soft)"
        >
          {number(tick, 4)}
        </text>
      ))}
      <text x={right} y={height - 4} fontSize={11} textAnchor="end" fill="var(--soft)">
        {unit}
      </text>
      <line
        x1={left}
        x2={right}
        y1={y(goal)}
        y2={y(goal)}
        stroke="var(--moss)"
        strokeDasharray="5 4"
      />
      <text
        x={goalAt === "end" ? right : left + 4}
        y={y(goal) - 4}
        fontSize={11}
        textAnchor={goalAt}
        fill="var(--moss)"
      >
        goal {hours(goal)}
      </text>
    </>
  );
}
