import type { Joint } from "../api/types";
import { quantity } from "../lib/format";

interface WindowStripProps {
  joint: Joint;
  width?: number;
}

/** What arrives (bar) on what is accepted (frame). The same strip wherever volts meet. */
export function WindowStrip({ joint, width = 150 }: WindowStripProps) {
  const low = Math.min(joint.arrives_low_v, joint.least_v);
  const high = Math.max(joint.arrives_high_v, joint.most_v);
  const at = (volts: number) => 4 + ((volts - low) / (high - low)) * (width - 8);
  const over = joint.arrives_high_v > joint.most_v;
  const words = `${quantity(joint.arrives_low_v, "V")} to ${quantity(joint.arrives_high_v, "V")} arrives; ${quantity(joint.least_v, "V")} to ${quantity(joint.most_v, "V")} is accepted: ${joint.fit}${joint.stranded ? `, but strands ${quantity(joint.stranded.share, "share", 2)}` : ""}`;
  const inside = {
    from: Math.max(joint.arrives_low_v, joint.least_v),
    to: Math.min(joint.arrives_high_v, joint.most_v),
  };
  return (
    <svg
      width={width}
      height={34}
      viewBox={`0 0 ${width} 34`}
      role="img"
      aria-label={words}
      data-fit={joint.fit}
    >
      <title>{words}</title>
      <defs>
        <pattern
          id="stranded"
          width="5"
          height="5"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="2" height="5" fill="var(--fix)" />
        </pattern>
      </defs>
      <rect
        x={at(joint.least_v)}
        y={4}
        width={at(joint.most_v) - at(joint.least_v)}
        height={14}
        rx={2}
        fill="var(--card)"
        stroke="var(--edge)"
      />
      {inside.to >= inside.from ? (
        <rect
          x={at(inside.from)}
          y={8}
          width={Math.max(at(inside.to) - at(inside.from), 3)}
          height={6}
          fill="var(--river)"
        />
      ) : null}
      {joint.arrives_low_v < joint.least_v ? (
        <rect
          x={at(joint.arrives_low_v)}
          y={8}
          width={at(Math.min(joint.least_v, joint.arrives_high_v)) - at(joint.arrives_low_v)}
          height={6}
          fill="url(#stranded)"
        />
      ) : null}
      {over ? (
        <rect
          x={at(Math.max(joint.most_v, joint.arrives_low_v))}
          y={2}
          width={at(joint.arrives_high_v) - at(Math.max(joint.most_v, joint.arrives_low_v))}
          height={18}
          fill="var(--stop)"
        />
      ) : null}
      <text x={4} y={31} fontSize={11} fill="var(--soft)">
        {quantity(low, "V")}
      </text>
      <text
        x={width - 4}
        y={31}
        fontSize={11}
        textAnchor="end"
        fill={over ? "var(--stop)" : "var(--soft)"}
        fontWeight={over ? 700 : 400}
      >
        {quantity(high, "V")}
      </text>
    </svg>
  );
}
