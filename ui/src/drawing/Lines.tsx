import { wired } from "../design/cable-text";
import { outletsOf } from "../design/edits";
import { quantity } from "../lib/format";
import type { PlacedLine, PlacedRail } from "./placed";
import { ampsOf, thickness, useDrawn } from "./use-drawn";

/** A cable: as thick as its current asks; broken where nothing flows. */
export function Lead({ line, narrow }: { line: PlacedLine; narrow: boolean }) {
  const drawn = useDrawn();
  const amps = ampsOf(drawn, line.of, line.side);
  const { evaluation } = drawn;
  const wire = evaluation.wires.find(
    (one) => one.subject === line.of && (line.side !== "out" || one.kind === "post"),
  );
  const length = drawn.lengths && wire ? quantity(wire.length_m, "m") : "";
  const store = line.side === "out" && drawn.design.stores.some((one) => one.id === line.of);
  return (
    <g data-line={`${line.of} ${line.side}`} data-amps={amps}>
      <path
        d={line.d}
        fill="none"
        stroke={amps > 0 ? (store ? "var(--plus)" : "var(--ink)") : "var(--edge)"}
        strokeWidth={thickness(amps)}
        strokeDasharray={amps > 0 ? undefined : "2 4"}
      />
      {line.labelX > 0 ? (
        <text
          x={line.labelX}
          y={line.labelY - thickness(amps) / 2}
          fontSize={12}
          textAnchor={line.side === "load" && !narrow ? "end" : "middle"}
          fill={amps > 0 ? "var(--ink)" : "var(--soft)"}
          className="halo"
        >
          {amps > 0 ? written(amps) : "off"}
          {length && line.side === "load" ? ` · ${length}` : ""}
        </text>
      ) : null}
      {line.labelX > 0 && wire && !(narrow && line.side === "load") ? (
        <text
          x={line.labelX}
          y={line.labelY + 14 + thickness(amps) / 2}
          fontSize={10.5}
          textAnchor={line.side === "load" && !narrow ? "end" : "middle"}
          fill="var(--soft)"
          fontStyle={wire.chosen ? undefined : "italic"}
          className="halo"
          data-wire={line.of}
        >
          {line.side === "load"
            ? inOneLine(wired(wire))
            : [...wired(wire), length].filter(Boolean).map((text, index) => (
                <tspan key={text} x={line.labelX} dy={index ? 12 : 0}>
                  {text}
                </tspan>
              ))}
        </text>
      ) : null}
    </g>
  );
}

/** Size and fuse beside each other, closer where they are long: a load's lead is short. */
const inOneLine = (pair: readonly string[]): string =>
  pair.join(pair.join("").length > 14 ? "·" : " · ");

/** A rail: its nominal volts by name, and what it has at the moment drawn. */
export function RailLine({ rail }: { rail: PlacedRail }) {
  const { design, moment, evaluation } = useDrawn();
  const stage = design.stages.find((one) => one.id === rail.id);
  const nominal = evaluation.figures[`store.${rail.id}.volts`]?.value;
  const outlet = outletsOf(design).find((one) => one.outlet.id === rail.id)?.outlet;
  const kind = stage?.kind === "inverter" || outlet?.kind === "ac" ? "AC" : "DC";
  const set =
    stage?.kind === "inverter"
      ? stage.output_v
      : stage?.kind === "converter"
        ? stage.set_v
        : outlet
          ? outlet.volts
          : nominal;
  const without = outlet ? "sagging port" : "feed";
  const name = set == null ? without : `${quantity(set, "V")} ${kind}`;
  const worst = evaluation.run.worst[rail.id]?.volts;
  const now = moment ? moment.volts[rail.id] : stage || outlet ? undefined : worst;
  const says =
    now === undefined ? "" : now === 0 ? "off" : moment ? `now ${volts(now)}` : volts(now);
  const middle = rail.anchor === "middle";
  return (
    <g data-rail={rail.id} data-volts={now}>
      <line
        x1={rail.x}
        x2={rail.x}
        y1={rail.top}
        y2={rail.bottom}
        stroke="var(--ink)"
        strokeWidth={6}
        strokeLinecap="round"
      />
      <text
        x={rail.nameX}
        y={middle && says ? rail.nameY - 13 : rail.nameY}
        fontSize={13}
        fontWeight={700}
        textAnchor={rail.anchor}
        fill="var(--ink)"
        className="halo"
      >
        {name}
        {middle ? null : (
          <tspan dx={8} fontWeight={400} fontSize={12} fill="var(--soft)">
            {says}
          </tspan>
        )}
      </text>
      {middle && says ? (
        <text
          x={rail.nameX}
          y={rail.nameY + 1}
          fontSize={11.5}
          textAnchor="middle"
          fill="var(--soft)"
          className="halo"
        >
          {says}
        </text>
      ) : null}
    </g>
  );
}

const written = (amps: number) =>
  amps < 0.1 ? quantity(amps * 1000, "mA", 2) : quantity(amps, "A");
const volts = (value: number) => `${value.toFixed(value < 100 ? 2 : 0)} V`;
