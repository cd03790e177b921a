import type { SizeRow } from "../../api/types";

/** Pixels to a millimetre of copper. */
const SCALE = 1.7;

/** The two conductors cut across, to scale: copper in its insulation. Proposed ones are dashed. */
export function Discs({ size, proposed }: { size: SizeRow; proposed: boolean }) {
  const copper = Math.max(Math.sqrt(size.mm2 / Math.PI) * SCALE, 1.4);
  const whole = copper + 2.5;
  const step = whole * 2 + 2;
  const pairs = Array.from({ length: size.leads }, (_, index) => index);
  const height = (whole * 2 + 2) * 1;
  const width = step * 2 * size.leads + 2;
  return (
    <svg
      width={width}
      height={height}
      viewBox={`0 0 ${width} ${height}`}
      aria-hidden="true"
      className="shrink-0"
    >
      {pairs.flatMap((pair) =>
        ["var(--plus)", "var(--stone-2)"].map((colour, pole) => (
          <g key={`${pair}-${colour}`}>
            <circle
              cx={1 + whole + (pair * 2 + pole) * step}
              cy={height / 2}
              r={whole}
              fill={proposed ? "none" : colour}
              stroke={colour}
              strokeDasharray={proposed ? "2 2" : undefined}
            />
            <circle
              cx={1 + whole + (pair * 2 + pole) * step}
              cy={height / 2}
              r={copper}
              fill={proposed ? "none" : "var(--sand)"}
              stroke={proposed ? colour : "none"}
              strokeWidth={0.6}
            />
          </g>
        )),
      )}
    </svg>
  );
}
