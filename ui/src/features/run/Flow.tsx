import type { Course } from "../../api/types";
import { quantity } from "../../lib/format";
import { stoneOf } from "../../pictures/stones";
import { spread } from "../../verdict/jar-geometry";
import { useShown } from "./use-course";

type Part = Course["flow"]["parts"][number];

const WIDTH = 330;
const BAR = 16;
const ENDS = 128;
const GAP = 5;
const LEAST = 2;
const ORDER: Part["kind"][] = [
  "load",
  "standby",
  "idle",
  "stage",
  "adapter",
  "cable",
  "battery",
  "left",
  "reserve",
];

/** Where the energy in the stores went: a river that parts, each arm as wide as its Wh. */
export function Flow() {
  const { course, stones } = useShown();
  const { total_wh, parts } = course.flow;
  if (!parts.length || total_wh <= 0) return null;
  const sorted = [...parts].sort(
    (a, b) => ORDER.indexOf(a.kind) - ORDER.indexOf(b.kind) || b.wh - a.wh,
  );
  const body = Math.max(180, sorted.length * 16);
  const high = (wh: number) => Math.max((wh / total_wh) * body, LEAST);
  let from = 8;
  let to = 8;
  const arms = sorted.map((part) => {
    const h = high(part.wh);
    const arm = { part, h, from, to };
    from += h;
    to += h + GAP;
    return arm;
  });
  const labels = spread(
    arms.map((arm) => arm.to + arm.h / 2 + 4),
    14,
    14,
    to + 10,
  );
  const height = Math.max(to, (labels.at(-1) ?? 0) + 6, ...labels) + 6;
  return (
    <section aria-label="Where the energy went">
      <h2 className="text-lg">Where {quantity(total_wh, "Wh")} went</h2>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="mt-1 w-full"
        role="img"
        aria-label={sorted.map((p) => `${p.name} ${quantity(p.wh, "Wh")}`).join("; ")}
        data-part="flow"
      >
        <rect x={0} y={8} width={BAR} height={from - 8} rx={3} fill="var(--glass)" />
        {arms.map(({ part, h, from: a, to: b }, index) => {
          const middle = (BAR + ENDS) / 2;
          const fill = colourOf(part, stones);
          return (
            <g key={`${part.kind}-${part.subject}`} data-flow={part.kind}>
              <title>
                {part.name}: {quantity(part.wh, "Wh")}
                {part.why ? ` (${part.why})` : ""}
              </title>
              <path
                d={`M${BAR} ${a}C${middle} ${a} ${middle} ${b} ${ENDS} ${b}V${b + h}C${middle} ${b + h} ${middle} ${a + h} ${BAR} ${a + h}Z`}
                fill={fill}
              />
              <text x={ENDS + 8} y={labels[index]} fontSize={12} fill="var(--ink)">
                {part.name.length > 25 ? `${part.name.slice(0, 24)}…` : part.name}
              </text>
              <text
                x={WIDTH}
                y={labels[index]}
                fontSize={12}
                textAnchor="end"
                fill="var(--soft)"
                className="halo"
              >
                {quantity(part.wh, "Wh")}
              </text>
            </g>
          );
        })}
      </svg>
      {sorted
        .filter((part) => part.why)
        .map((part) => (
          <p key={`${part.kind}-${part.subject}`} className="text-soft text-sm">
            {part.name}: {part.why}.
          </p>
        ))}
    </section>
  );
}

function colourOf(part: Part, stones: ReadonlyMap<string, number>): string {
  if (part.kind === "load" || part.kind === "standby")
    return stoneOf(stones.get(part.subject) ?? 0);
  if (part.kind === "idle") return "var(--sand)";
  if (part.kind === "left") return "var(--fix)";
  return part.kind === "reserve" ? "var(--hatch)" : "var(--water)";
}
