import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { memo, useMemo, useRef } from "react";
import type { Refill } from "../../api/types";
import { useDesign } from "../../design/store";
import { useRoom } from "../../drawing/use-room";
import { number, quantity } from "../../lib/format";
import { SOURCE_COLOURS } from "../../pictures/sources";
import { stoneOf } from "../../pictures/stones";
import { MainsLane } from "./MainsLane";
import { highest, stacked } from "./refill";

export const LEFT = 54;
const RIGHT = 8;
const IN_H = 110;
const OUT_H = 84;
const CHARGE_H = 130;
const TOP = 26;
const ZERO = TOP + IN_H;
const CHARGE_TOP = ZERO + OUT_H + 40;
const HEIGHT = CHARGE_TOP + CHARGE_H + 8;
const LANE_H = 12;
const LANE_ROOM = 24;

interface WeekChartProps {
  refill: Refill;
  /** Place of each load in the design: its stone colour. */
  stones: ReadonlyMap<string, number>;
}

/** Seven days: what comes in above the line, what goes out below it, and the charge. */
export const WeekChart = memo(function WeekChart({ refill, stones }: WeekChartProps) {
  const frame = useRef<HTMLDivElement>(null);
  const width = Math.max(useRoom(frame), 320);
  const x = scaleLinear([0, 168], [LEFT, width - RIGHT]);
  const inflows = refill.inflows.filter((one) => one.kind !== "store");
  const ins = useMemo(() => stacked(inflows.map((one) => one.wh)), [inflows]);
  const outs = useMemo(() => stacked(refill.outflows.map((one) => one.wh)), [refill.outflows]);
  const most = Math.max(highest(inflows.map((one) => one.wh)), 1);
  const taken = Math.max(highest(refill.outflows.map((one) => one.wh)), 1);
  const up = scaleLinear([0, most], [ZERO, TOP + 14]);
  const down = scaleLinear([0, taken], [ZERO, ZERO + OUT_H]);
  const y = scaleLinear([0, 1], [CHARGE_TOP + CHARGE_H, CHARGE_TOP]);
  const bar = Math.max((width - LEFT - RIGHT) / 168 - 0.4, 0.8);
  const band = area<number>()
    .x((_, hour) => x(hour))
    .y0((low) => y(low))
    .y1((_, hour) => y(refill.high[hour] ?? 0))(refill.low);
  const course = line<number>()
    .x((_, hour) => x(hour))
    .y((charge) => y(charge))(refill.charge);
  const mains = useDesign((state) => state.document?.stores.some((one) => one.kind === "mains"));
  const words = `${refill.headline}. ${refill.details.join(" ")} In a mean day ${quantity(refill.day_in_wh, "Wh")} come in and ${quantity(refill.day_out_wh, "Wh")} go out.`;
  return (
    <div ref={frame} data-part="week">
      <svg width={width} height={HEIGHT + (mains ? LANE_ROOM : 0)} role="img" aria-label={words}>
        <Title y={14} text="In and out, by the hour" />
        <Title y={CHARGE_TOP - 10} text={`Charge of ${refill.store_name}, with its band`} />
        {refill.days.map((day, d) => (
          <g key={day.name}>
            <line
              x1={x(24 * d)}
              x2={x(24 * d)}
              y1={TOP}
              y2={CHARGE_TOP + CHARGE_H}
              stroke="var(--line)"
            />
            <text x={x(24 * d + 12)} y={TOP + 4} {...SMALL} fill="var(--ink)">
              {day.in_wh > 0 ? `+${number(day.in_wh)}` : ""}
            </text>
            <text x={x(24 * d + 12)} y={ZERO + OUT_H + 14} {...SMALL} fill="var(--soft)">
              {day.out_wh > 0 ? `−${number(day.out_wh)}` : ""}
            </text>
          </g>
        ))}
        {ins.map((bars, n) => (
          <g key={inflows[n]?.id} fill={SOURCE_COLOURS[inflows[n]?.kind ?? "store"]}>
            {bars.map(({ hour, from, to }) => (
              <rect key={hour} x={x(hour)} width={bar} y={up(to)} height={up(from) - up(to)} />
            ))}
          </g>
        ))}
        {outs.map((bars, n) => {
          const id = refill.outflows[n]?.id ?? "";
          const stone = stones.get(id);
          return (
            <g key={id} fill={stone === undefined ? "var(--water)" : stoneOf(stone)}>
              {bars.map(({ hour, from, to }) => (
                <rect
                  key={hour}
                  x={x(hour)}
                  width={bar}
                  y={down(from)}
                  height={down(to) - down(from)}
                />
              ))}
            </g>
          );
        })}
        <line x1={LEFT} x2={width - RIGHT} y1={ZERO} y2={ZERO} stroke="var(--edge)" />
        {refill.day_in_wh > 0 ? <Unit y={up(most) + 4} text={`${number(most)} W`} /> : null}
        <Unit y={down(taken) + 4} text={`${number(taken)} W`} />
        <rect
          x={LEFT}
          width={width - LEFT - RIGHT}
          y={y(refill.reserve)}
          height={y(0) - y(refill.reserve)}
          fill="var(--line)"
          opacity={0.55}
        />
        {[0, 0.25, 0.5, 0.75, 1].map((share) => (
          <g key={share}>
            <line
              x1={LEFT}
              x2={width - RIGHT}
              y1={y(share)}
              y2={y(share)}
              stroke="var(--line)"
              strokeDasharray="1 4"
            />
            <Unit y={y(share) + 4} text={`${share * 100} %`} />
          </g>
        ))}
        {refill.reserve > 0 ? (
          <text x={LEFT + 4} y={y(refill.reserve / 2) + 4} fontSize={11} fill="var(--soft)">
            reserve
          </text>
        ) : null}
        <path d={band ?? ""} fill="var(--band)" />
        <path d={course ?? ""} fill="none" stroke="var(--river)" strokeWidth={2} />
        {mains ? (
          <MainsLane
            refill={refill}
            y={HEIGHT + 4}
            height={LANE_H}
            x={x}
            hourAt={(px) => x.invert(px)}
          />
        ) : null}
      </svg>
    </div>
  );
});

const SMALL = { fontSize: 11.5, textAnchor: "middle" as const };

function Title({ y, text }: { y: number; text: string }) {
  return (
    <text
      x={8}
      y={y}
      fontSize={14}
      fontWeight={700}
      fontFamily="var(--font-head)"
      fill="var(--ink)"
    >
      {text}
    </text>
  );
}

function Unit({ y, text }: { y: number; text: string }) {
  return (
    <text x={LEFT - 6} y={y} fontSize={11.5} textAnchor="end" fill="var(--soft)">
      {text}
    </text>
  );
}
