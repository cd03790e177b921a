import type { CableRow } from "../api/types";
import { quantity } from "../lib/format";

const W = 148;
const PAD = 5;

/** Where a fuse may lie: from 125 % of what flows to the rating of the cable; and where it does. */
export function FuseStrip({ row }: { row: CableRow }) {
  const fuse = row.fuse ?? row.proposed_fuse;
  const rated = row.most_fuse_a ?? 0;
  const most = Math.max(rated, fuse?.amps ?? 0, row.least_fuse_a, 0.1) * 1.06;
  const at = (amps: number) => PAD + (amps / most) * (W - 2 * PAD);
  const fits = row.fuse_fits;
  const colour = fits ? "var(--ink)" : "var(--stop)";
  const words = `${quantity(row.lead_a, "A")} in one cable, 125 % of it ${quantity(row.least_fuse_a, "A")}, ${
    fuse
      ? `${row.fuse ? "" : "suggested "}fuse ${quantity(fuse.amps, "A")}`
      : row.limited
        ? "no fuse needed at the charger"
        : "no fuse fits"
  }, it is rated for ${rated ? quantity(rated, "A") : "nothing by its table"}`;
  const inside = rated > row.least_fuse_a;
  return (
    <svg
      width={W}
      height={36}
      viewBox={`0 0 ${W} 36`}
      role="img"
      aria-label={words}
      data-fuse-fits={fits}
    >
      <title>{words}</title>
      <line x1={PAD} x2={W - PAD} y1={14} y2={14} stroke="var(--line)" strokeWidth={2} />
      {inside ? (
        <rect
          x={at(row.least_fuse_a)}
          y={6}
          width={Math.max(at(rated) - at(row.least_fuse_a), 2)}
          height={16}
          rx={2}
          fill="var(--river-wash)"
          stroke="var(--edge)"
          strokeWidth={0.8}
        />
      ) : null}
      <rect
        x={PAD}
        y={11}
        width={Math.max(at(row.lead_a) - PAD, 1)}
        height={6}
        fill="var(--river)"
      />
      <line
        x1={at(rated)}
        x2={at(rated)}
        y1={3}
        y2={25}
        stroke="var(--plus)"
        strokeWidth={2}
        strokeLinecap="round"
      />
      {fuse ? (
        <rect
          x={at(fuse.amps) - 4}
          y={4}
          width={8}
          height={20}
          rx={4}
          fill={row.fuse ? colour : "var(--card)"}
          stroke={colour}
          strokeWidth={1.4}
          strokeDasharray={row.fuse ? undefined : "2 2"}
        />
      ) : null}
      <text x={PAD} y={34} fontSize={10.5} fill="var(--soft)">
        {quantity(row.lead_a, "A")}
      </text>
      <text x={W - PAD} y={34} fontSize={10.5} textAnchor="end" fill="var(--plus)">
        rated for {rated ? quantity(rated, "A") : "–"}
      </text>
    </svg>
  );
}
