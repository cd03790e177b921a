import type { KeyboardEvent, ReactNode } from "react";
import type { Judgement, Load, LoadRow } from "../api/types";
import { useWorked } from "../design/use-evaluation";
import { stoneOf } from "../parts/stones";
import { quantity } from "../units/format";
import { SEVERITIES } from "../verdict/Findings";
import type { PanelName } from "./panels";

export const LOAD_X = 650;
export const LINE_H = 23;
export const WIDTH = 900;
export const MOST_LOADS = 12;

interface PartProps {
  name: PanelName;
  onOpen: () => void;
  children: ReactNode;
}

/** A part of the drawing that opens below when clicked or entered. */
export function Part({ name, onOpen, children }: PartProps) {
  const key = (event: KeyboardEvent) => {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    onOpen();
  };
  return (
    <g
      role="button"
      tabIndex={0}
      data-opens={name}
      className="cursor-pointer"
      onClick={onOpen}
      onKeyDown={key}
    >
      {children}
    </g>
  );
}

interface TitleProps {
  x: number;
  y: number;
  text: string;
  most?: number;
  findings: readonly Judgement[];
  subject: string;
}

/** A name, cut to fit, with the worst finding on it said above by shape and word. */
export function Title({ x, y, text, most = 22, findings, subject }: TitleProps) {
  const worst = worstOf(findings, subject);
  const cut = text.length > most ? `${text.slice(0, most - 1).trim()}…` : text;
  return (
    <>
      {worst ? (
        <text x={x - 9} y={y - 25} fontSize={12} fontWeight={700} fill={`var(--${worst.severity})`}>
          {SEVERITIES[worst.severity].shape} {SEVERITIES[worst.severity].word}
        </text>
      ) : null}
      <text
        x={x}
        y={y}
        fontSize={13.5}
        fontWeight={700}
        fill="var(--ink)"
        fontFamily="var(--font-head)"
      >
        {cut}
      </text>
    </>
  );
}

function worstOf(findings: readonly Judgement[], subject: string): Judgement | undefined {
  return findings.find((f) => f.subject === subject && f.severity !== "note");
}

export function edgeOf(findings: readonly Judgement[], subject: string): string {
  const worst = worstOf(findings, subject);
  return worst ? `var(--${worst.severity})` : "var(--ink)";
}

/** Thicker with current, a little for each tenfold. [A] to px. */
export const thickness = (amps: number) => 1.2 + 1.6 * Math.log10(1 + amps);

interface LineProps {
  from: [number, number];
  to: [number, number];
  amps: number;
  /** Height at which the line crosses over, if it has to. */
  via?: number;
  label?: boolean;
  labelX?: number;
}

export function Line({ from, to, amps, via, label = false, labelX }: LineProps) {
  const width = thickness(amps);
  const path = via ? `M${from[0]} ${from[1]}V${via}H${to[0]}` : `M${from[0]} ${from[1]}H${to[0]}`;
  return (
    <>
      <path d={path} fill="none" stroke={via ? "var(--plus)" : "var(--ink)"} strokeWidth={width} />
      {label ? (
        <text
          x={labelX ?? (from[0] + to[0]) / 2}
          y={from[1] - 8}
          fontSize={12.5}
          textAnchor="middle"
          fill="var(--ink)"
        >
          {quantity(amps, "A")}
        </text>
      ) : null}
    </>
  );
}

interface RailProps {
  x: number;
  top: number;
  bottom: number;
  name: string;
  below?: string;
}

export function Rail({ x, top, bottom, name, below }: RailProps) {
  return (
    <>
      <line
        x1={x}
        x2={x}
        y1={top}
        y2={bottom}
        stroke="var(--ink)"
        strokeWidth={6}
        strokeLinecap="round"
      />
      <text x={x} y={top - 10} fontSize={13} fontWeight={700} textAnchor="middle" fill="var(--ink)">
        {name}
      </text>
      {below ? (
        <text x={x} y={bottom + 18} fontSize={11} textAnchor="middle" fill="var(--soft)">
          {below}
        </text>
      ) : null}
    </>
  );
}

interface LoadNamesProps {
  loads: readonly Load[];
  top: number;
  onOpen: (panel: PanelName) => void;
}

export function LoadNames({ loads, top, onOpen }: LoadNamesProps) {
  const { evaluation } = useWorked();
  const rows = new Map<string, LoadRow>(evaluation.loads.map((row) => [row.id, row]));
  const order = evaluation.loads.map((row) => row.id);
  if (!loads.length) return null;
  return (
    <Part name="loads" onOpen={() => onOpen("loads")}>
      {loads.slice(0, MOST_LOADS).map((load, index) => {
        const row = rows.get(load.id);
        const worst = worstOf(evaluation.findings, load.id);
        const last = index === MOST_LOADS - 1 && loads.length > MOST_LOADS;
        const y = top + index * LINE_H;
        return (
          <g key={load.id}>
            <rect
              x={LOAD_X}
              y={y - 10}
              width={11}
              height={11}
              rx={4}
              fill={stoneOf(order.indexOf(load.id))}
            />
            <text
              x={LOAD_X + 18}
              y={y}
              fontSize={13}
              fill={worst ? `var(--${worst.severity})` : "var(--ink)"}
            >
              {last
                ? `and ${loads.length - MOST_LOADS + 1} more`
                : `${short(load.name)}${load.count > 1 ? ` ×${load.count}` : ""}`}
              {worst && !last ? ` ${SEVERITIES[worst.severity].shape}` : ""}
            </text>
            {row && !last ? (
              <text x={WIDTH - 14} y={y} fontSize={13} textAnchor="end" fill="var(--soft)">
                {quantity(row.one_w * load.count, "W")}
              </text>
            ) : null}
          </g>
        );
      })}
    </Part>
  );
}

const short = (name: string) => (name.length > 24 ? `${name.slice(0, 23).trim()}…` : name);
