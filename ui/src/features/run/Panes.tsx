import { max, min } from "d3-array";
import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { memo, useMemo } from "react";
import { clock, number, quantity } from "../../lib/format";
import { labelsOf } from "./cut-labels";
import { clockTicks, inSight, nights, type View, valueAt } from "./geometry";
import { inflowsOf, layersOf, stackedOf } from "./layers";
import { useShown } from "./use-course";

export const LEFT = 54;
export const FLAGS_H = 30;
const TITLE_H = 30;
const AXIS_H = 30;
const HEIGHTS = { power: 170, volts: 150, charge: 130 };

const tops = {
  power: FLAGS_H + TITLE_H,
  volts: FLAGS_H + TITLE_H * 2 + HEIGHTS.power + 8,
  charge: FLAGS_H + TITLE_H * 3 + HEIGHTS.power + HEIGHTS.volts + 16,
};
export const BOTTOM = tops.charge + HEIGHTS.charge;
export const HEIGHT = BOTTOM + AXIS_H;

interface PaneProps {
  view: View;
  width: number;
}

const xOf = ({ view, width }: PaneProps) =>
  scaleLinear([view.from, view.to], [LEFT, width - 8]).clamp(false);

/** All that is drawn of a run but the cursor. */
export const Panes = memo(function Panes(props: PaneProps) {
  const { course } = useShown();
  const { view, width } = props;
  const x = xOf(props);
  const start = course.starts_at_h;
  return (
    <>
      <defs>
        <clipPath id="run-clip">
          <rect x={LEFT} y={0} width={Math.max(width - LEFT - 8, 0)} height={HEIGHT} />
        </clipPath>
        <pattern
          id="kept"
          width="7"
          height="7"
          patternUnits="userSpaceOnUse"
          patternTransform="rotate(45)"
        >
          <rect width="2" height="7" fill="var(--hatch)" />
        </pattern>
      </defs>
      {nights(view, start, course).map((night) => (
        <rect
          key={night.from}
          x={x(night.from)}
          y={tops.power}
          width={x(night.to) - x(night.from)}
          height={BOTTOM - tops.power}
          fill="var(--night)"
        />
      ))}
      {clockTicks(view, start, Math.max(Math.floor(width / 110), 2)).map((at) => (
        <g key={at}>
          <line x1={x(at)} x2={x(at)} y1={tops.power} y2={BOTTOM} stroke="var(--line)" />
          <text x={x(at)} y={BOTTOM + 16} fontSize={11.5} textAnchor="middle" fill="var(--soft)">
            {clock(start + at)}
          </text>
          <text x={x(at)} y={BOTTOM + 28} fontSize={10.5} textAnchor="middle" fill="var(--soft)">
            day {Math.floor((start + at + 1e-6) / 24) + 1}
          </text>
        </g>
      ))}
      <Power {...props} />
      <Volts {...props} />
      <Charge {...props} />
    </>
  );
});

function Title({ top, text }: { top: number; text: string }) {
  return (
    <text
      x={8}
      y={top - 12}
      fontSize={14}
      fontWeight={700}
      fontFamily="var(--font-head)"
      fill="var(--ink)"
    >
      {text}
    </text>
  );
}

interface ScaleProps {
  ticks: number[];
  y: (value: number) => number;
  unit: string;
  width: number;
}

function Scale({ ticks, y, unit, width }: ScaleProps) {
  return ticks.map((tick) => (
    <g key={tick}>
      <line
        x1={LEFT}
        x2={width - 8}
        y1={y(tick)}
        y2={y(tick)}
        stroke="var(--line)"
        strokeDasharray="1 4"
      />
      <text x={LEFT - 6} y={y(tick) + 4} fontSize={11.5} textAnchor="end" fill="var(--soft)">
        {number(tick)} {unit}
      </text>
    </g>
  ));
}

/** Power out of the stores, in layers: loss, idle, each load. */
function Power(props: PaneProps) {
  const { course, names, stones, sources } = useShown();
  const { view, width } = props;
  const { hours } = course.series;
  const layers = useMemo(() => layersOf(course, names, stones), [course, names, stones]);
  const stacked = useMemo(() => stackedOf(layers), [layers]);
  const total = stacked[0]?.[1] ?? [];
  const inflows = useMemo(
    () =>
      stackedOf(inflowsOf(course, sources)).map(
        ([one, edge]) => [one, edge.map((v) => -v)] as const,
      ),
    [course, sources],
  );
  const given = -(min(inflows[0]?.[1] ?? []) ?? 0);
  const y = scaleLinear([-given, max(total) || 1], [tops.power + HEIGHTS.power, tops.power]).nice(
    4,
  );
  const x = xOf(props);
  // Of many points fewer than of a single line: all layers are drawn of the same.
  const all = given ? total.map((value, at) => value - (inflows[0]?.[1][at] ?? 0)) : total;
  const kept = inSight(hours, all, view, (width - LEFT) / 3);
  const across = kept.map((at) => x(hours[at] ?? 0));
  const shape = (edge: readonly number[]) =>
    area<number>()
      .x((_, at) => across[at] ?? 0)
      .y0(y(0))
      .y1((at) => y(edge[at] ?? 0))
      .digits(1)(kept);
  return (
    <g data-pane="power">
      <Title
        top={tops.power}
        text={
          given
            ? "Power by where it goes; below the line, what sources give"
            : "Power out of the store, by where it goes"
        }
      />
      <Scale ticks={y.ticks(4)} y={y} unit="W" width={width} />
      <g clipPath="url(#run-clip)">
        {/* Each from zero to its upper edge, the highest first: the ones below lie over it. */}
        {stacked.map(([layer, edge]) => (
          <path
            key={layer.key}
            d={shape(edge) ?? ""}
            fill={layer.colour}
            stroke="var(--paper)"
            strokeWidth={0.4}
            data-layer={layer.key}
          >
            <title>{layer.name}</title>
          </path>
        ))}
        {inflows.map(([source, edge]) => (
          <path
            key={source.key}
            d={shape(edge) ?? ""}
            fill={source.colour}
            data-inflow={source.key}
          >
            <title>{source.name}</title>
          </path>
        ))}
        {given ? <line x1={LEFT} x2={width - 8} y1={y(0)} y2={y(0)} stroke="var(--edge)" /> : null}
      </g>
    </g>
  );
}

/** Volts of a rail, with what cuts out and restarts at which. */
function Volts(props: PaneProps) {
  const { course, rail, overlay } = useShown();
  const { view, width } = props;
  const { hours } = course.series;
  const logged = overlay?.rail === rail ? overlay : null;
  const volts = course.series.volts[rail] ?? [];
  const lines = course.lines.filter((one) => one.rail === rail);
  const on = volts.filter((value) => value > 0);
  const marks = lines.map((one) => one.volts);
  const seen = (logged?.volts ?? []).filter((value) => value !== null);
  const low = min([...on, ...marks, ...seen]) ?? 0;
  const high = max([...on, ...marks, ...seen]) ?? 1;
  const room = Math.max((high - low) * 0.08, high * 0.01);
  const bottom = tops.volts + HEIGHTS.volts;
  const y = scaleLinear([low - room, high + room], [bottom, tops.volts]);
  const x = xOf(props);
  const path = line<number>()
    .defined((at) => (volts[at] ?? 0) > 0)
    .x((at) => x(hours[at] ?? 0))
    .y((at) => y(volts[at] ?? 0));
  const labels = labelsOf(
    lines.map((one) => ({ text: one.text, height: y(one.volts) - 4 })),
    (at) => y(valueAt(hours, volts, x.invert(at))),
    { left: LEFT + 4, right: width - 12, top: tops.volts + 8, bottom: bottom - 2 },
  );
  return (
    <g data-pane="volts">
      <Title
        top={tops.volts}
        text={
          width < 560
            ? "Volts, and where each device cuts out"
            : `Volts of the ${course.rails[rail] ?? rail}, and where each device cuts out`
        }
      />
      <Scale ticks={y.ticks(4)} y={y} unit="V" width={width} />
      {lines.map((one, index) => {
        const colour = one.kind === "cuts out" ? "var(--fix)" : "var(--soft)";
        return (
          <g key={one.text} data-cut={one.text}>
            <line
              x1={LEFT}
              x2={width - 8}
              y1={y(one.volts)}
              y2={y(one.volts)}
              stroke={colour}
              strokeDasharray={one.kind === "cuts out" ? "7 4" : "2 4"}
            />
            <text
              x={labels[index]?.x}
              y={labels[index]?.y}
              fontSize={11.5}
              textAnchor={labels[index]?.anchor}
              fill={colour}
              className="halo-paper"
            >
              {one.text}
            </text>
          </g>
        );
      })}
      <g clipPath="url(#run-clip)">
        <path
          d={path(inSight(hours, volts, view, (width - LEFT) / 2)) ?? ""}
          fill="none"
          stroke="var(--river)"
          strokeWidth={2}
        />
        {logged ? (
          <path
            d={
              line<number>()
                .defined((at) => logged.volts[at] != null)
                .x((at) => x(logged.hours[at] ?? 0))
                .y((at) => y(logged.volts[at] ?? 0))(logged.hours.map((_, at) => at)) ?? ""
            }
            fill="none"
            stroke="var(--ink)"
            strokeWidth={1.5}
            strokeDasharray="5 3"
            data-overlay
          />
        ) : null}
      </g>
    </g>
  );
}

/** Charge of the store, the band of the draws shaded, the reserve hatched. */
function Charge(props: PaneProps) {
  const { course, store, reserve } = useShown();
  const { view, width } = props;
  const { hours } = course.series;
  const charge = course.series.charge[store] ?? [];
  const { band } = course;
  const bottom = tops.charge + HEIGHTS.charge;
  const y = scaleLinear([0, 1], [bottom, tops.charge]);
  const x = xOf(props);
  const shade = area<number>()
    .x((at) => x(band.hours[at] ?? 0))
    .y0((at) => y(band.low[store]?.[at] ?? 0))
    .y1((at) => y(band.high[store]?.[at] ?? 0));
  const path = line<number>()
    .x((at) => x(hours[at] ?? 0))
    .y((at) => y(charge[at] ?? 0));
  return (
    <g data-pane="charge">
      <Title top={tops.charge} text="Charge left, with its band" />
      <Scale ticks={[0, 25, 50, 75, 100]} y={(tick) => y(tick / 100)} unit="%" width={width} />
      {reserve > 0 ? (
        <g>
          <rect
            x={LEFT}
            y={y(reserve)}
            width={Math.max(width - LEFT - 8, 0)}
            height={bottom - y(reserve)}
            fill="url(#kept)"
            opacity={0.5}
          />
          <text
            x={LEFT + 6}
            y={y(reserve) + 13}
            fontSize={11.5}
            fill="var(--soft)"
            className="halo-paper"
          >
            reserve {quantity(reserve, "share", 2)}
          </text>
        </g>
      ) : null}
      <g clipPath="url(#run-clip)">
        <path d={shade(band.hours.map((_, at) => at)) ?? ""} fill="var(--band)" data-part="band" />
        <path
          d={path(inSight(hours, charge, view, (width - LEFT) / 2)) ?? ""}
          fill="none"
          stroke="var(--river)"
          strokeWidth={2}
        />
      </g>
    </g>
  );
}
