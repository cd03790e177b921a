import type { Design } from "../../api/types";
import { stoneOf } from "../../pictures/stones";

const W = 230;
const ROW = 26;

/** A design in small: stores at left, a line for each stage, its loads as stones. */
export function MiniDrawing({ design }: { design: Design }) {
  const stoneAt = new Map(design.loads.map((load, at) => [load.id, stoneOf(at)]));
  const loadsOn = (rail: string) => design.loads.filter((load) => load.rail === rail);
  // What only fills others stands above, beside the line that feeds the loads.
  const fills = (store: Design["stores"][number]) =>
    store.kind !== "bank" && store.kind !== "station" && !loadsOn(store.id).length;
  const sources = design.stores.filter(fills);
  const rails = [...sources, ...design.stores.filter((one) => !fills(one)), ...design.stages];
  const rows = rails.map((rail) => ({ id: rail.id, name: rail.name, loads: loadsOn(rail.id) }));
  const height = rows.length * ROW + 8;
  const stores = design.stores.length;
  return (
    <svg
      viewBox={`0 0 ${W} ${height}`}
      className="w-full max-w-60"
      role="img"
      aria-label={`${design.stores.map((one) => one.name).join(", ")} with ${design.stages.length} stages and ${design.loads.length} loads`}
    >
      <line
        x1={10}
        x2={10}
        y1={14 + Math.min(sources.length, rows.length - 1) * ROW}
        y2={Math.max(height - 16, 14)}
        stroke="var(--ink)"
        strokeWidth={3}
        strokeLinecap="round"
      />
      {rows.map((row, at) => {
        const y = at * ROW + 4;
        const store = at < stores;
        return (
          <g key={row.id}>
            {at < sources.length ? null : (
              <line x1={10} x2={22} y1={y + 10} y2={y + 10} stroke="var(--ink)" strokeWidth={1.5} />
            )}
            <rect
              x={store ? 2 : 22}
              y={y}
              width={store ? 128 : 108}
              height={20}
              rx={4}
              fill="var(--card)"
              stroke={store ? "var(--plus)" : "var(--ink)"}
            />
            <text x={store ? 8 : 28} y={y + 14} fontSize={10} fill="var(--ink)">
              {row.name.length > (store ? 22 : 18)
                ? `${row.name.slice(0, store ? 21 : 17)}…`
                : row.name}
            </text>
            {row.loads.slice(0, 8).map((load, index) => (
              <rect
                key={load.id}
                x={136 + index * 11}
                y={y + 6}
                width={9}
                height={9}
                rx={3.5}
                fill={stoneAt.get(load.id)}
              >
                <title>{load.name}</title>
              </rect>
            ))}
          </g>
        );
      })}
    </svg>
  );
}
