import type { KeyboardEvent, ReactNode } from "react";
import type { Judgement, Load, LoadRow } from "../api/types";
import { bankOf, inverterOf } from "../design/edits";
import { useDesign } from "../design/store";
import { useWorked } from "../design/use-evaluation";
import { stoneOf } from "../parts/stones";
import { WindowStrip } from "../parts/WindowStrip";
import { quantity } from "../units/format";
import { SEVERITIES } from "../verdict/Findings";
import { BankPicture, bankPictureSize, takeOffY } from "./BankPicture";
import type { PanelName } from "./panels";

const RAIL_X = 252;
const BOX_X = 366;
const BOX_W = 176;
const AC_X = 628;
const LOAD_X = 650;
const LINE_H = 23;
const WIDTH = 900;
const MOST_LOADS = 12;

interface DrawingProps {
  onOpen: (panel: PanelName) => void;
}

/** The system as the program sees it: store at left, rails as thick lines, loads at right. */
export function Drawing({ onOpen }: DrawingProps) {
  const { evaluation } = useWorked();
  const design = useDesign((state) => state.document);
  if (!design) return null;
  const bank = bankOf(design);
  const inverter = inverterOf(design);
  const behind = design.loads.filter((load) => load.rail === inverter?.id);
  const straight = design.loads.filter((load) => load.rail === bank.id);
  const figures = evaluation.figures;
  const amps = (key: string) => figures[key]?.value ?? 0;

  const acTop = 52;
  const acRows = Math.max(Math.min(behind.length, MOST_LOADS), inverter ? 4 : 0);
  const dcTop = inverter ? acTop + acRows * LINE_H + 58 : acTop;
  const dcRows = Math.max(Math.min(straight.length, MOST_LOADS), 1);
  const picture = bankPictureSize(bank.series, bank.parallel);
  const scale = Math.min(1, 118 / picture.width, 190 / picture.height);
  const height = Math.max(dcTop + dcRows * LINE_H + 22, picture.height * scale + 130);
  const acMiddle = acTop + (acRows * LINE_H) / 2 - 6;
  const dcMiddle = dcTop + (dcRows * LINE_H) / 2 - 6;
  const joint = evaluation.joints[0];
  const bankY = 80;
  const minusY = takeOffY(Math.min(evaluation.wiring.negative_string, 3));

  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: wider than a phone, it scrolls by keyboard too
    <section className="overflow-x-auto" aria-label="The system" tabIndex={0}>
      <svg
        viewBox={`0 0 ${WIDTH} ${height}`}
        className="min-w-180 max-w-240"
        role="group"
        aria-label="Drawing of the system"
      >
        <Part name="bank" onOpen={() => onOpen("bank")}>
          <rect x={4} y={4} width={196} height={height - 8} rx={6} fill="transparent" />
          <Title x={14} y={38} text={bank.name} findings={evaluation.findings} subject={bank.id} />
          <text x={14} y={55} fontSize={12} fill="var(--soft)">
            {bank.series}S {bank.parallel}P · {quantity(amps("bank.wh"), "Wh")}
          </text>
          <g transform={`translate(14 ${bankY}) scale(${scale})`}>
            <BankPicture bank={bank} wiring={evaluation.wiring} />
          </g>
          <path
            d={`M${14 + (picture.width - 8) * scale} ${bankY + minusY * scale}h22`}
            stroke="var(--ink)"
            strokeWidth={thickness(amps("bank.running_design_a"))}
          />
          <text
            x={14 + (picture.width - 8) * scale + 27}
            y={bankY + minusY * scale + 4}
            fontSize={11}
            fill="var(--soft)"
          >
            − return
          </text>
          <text x={14} y={bankY + picture.height * scale + 22} fontSize={11} fill="var(--soft)">
            {bank.parallel > 1 ? "plus off one end, minus off the other" : "one string"}
          </text>
        </Part>
        <Line
          from={[14 + 8 * scale, bankY + 20 * scale]}
          to={[RAIL_X, bankY + 20 * scale]}
          via={bankY - 10}
          amps={amps("bank.running_design_a")}
        />
        <Rail
          x={RAIL_X}
          top={34}
          bottom={height - 26}
          name={`${quantity(amps("bank.volts"), "V")} DC`}
          below={`${quantity(amps("bank.empty_v"), "V")} – ${quantity(amps("bank.full_v"), "V")}`}
        />

        {inverter ? (
          <>
            <Line
              from={[RAIL_X, acMiddle]}
              to={[BOX_X, acMiddle]}
              amps={amps("inverter.input_a")}
              label
            />
            <Part name="inverter" onOpen={() => onOpen("inverter")}>
              <rect
                x={BOX_X}
                y={acMiddle - 33}
                width={BOX_W}
                height={68}
                rx={5}
                fill="var(--card)"
                stroke={edgeOf(evaluation.findings, inverter.id)}
                strokeWidth={1.6}
              />
              <Title
                x={BOX_X + 10}
                y={acMiddle - 13}
                text={inverter.name}
                most={21}
                findings={evaluation.findings}
                subject={inverter.id}
              />
              <text x={BOX_X + 10} y={acMiddle + 4} fontSize={12} fill="var(--soft)">
                {inverter.waveform} · idles {quantity(inverter.idle_w, "W")}
              </text>
              <text x={BOX_X + 10} y={acMiddle + 21} fontSize={12} fill="var(--soft)">
                carries {quantity(amps("inverter.running_w"), "W")},{" "}
                {quantity(amps("inverter.share"), "share", 2)}
              </text>
            </Part>
            <Line
              from={[BOX_X + BOX_W, acMiddle]}
              to={[AC_X, acMiddle]}
              amps={amps("inverter.output_a")}
              label
            />
            <Rail
              x={AC_X}
              top={acTop - 18}
              bottom={acTop + acRows * LINE_H - 2}
              name={`${quantity(inverter.output_v, "V")} AC`}
            />
            {joint ? (
              <foreignObject x={BOX_X + 8} y={acMiddle + 38} width={160} height={38}>
                <WindowStrip joint={joint} width={160} />
              </foreignObject>
            ) : null}
          </>
        ) : null}
        <LoadNames loads={behind} top={acTop} onOpen={onOpen} />

        {straight.length || !inverter ? (
          <>
            <Line
              from={[RAIL_X, dcMiddle]}
              to={[AC_X, dcMiddle]}
              amps={amps("bank.dc_a")}
              label
              labelX={(RAIL_X + BOX_X) / 2}
            />
            <Rail
              x={AC_X}
              top={dcTop - 18}
              bottom={dcTop + dcRows * LINE_H - 4}
              name={`${quantity(amps("bank.volts"), "V")} DC`}
            />
            <LoadNames loads={straight} top={dcTop} onOpen={onOpen} />
          </>
        ) : null}
      </svg>
    </section>
  );
}

interface PartProps {
  name: PanelName;
  onOpen: () => void;
  children: ReactNode;
}

/** A part of the drawing that opens below when clicked or entered. */
function Part({ name, onOpen, children }: PartProps) {
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
function Title({ x, y, text, most = 22, findings, subject }: TitleProps) {
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

function edgeOf(findings: readonly Judgement[], subject: string): string {
  const worst = worstOf(findings, subject);
  return worst ? `var(--${worst.severity})` : "var(--ink)";
}

/** Thicker with current, a little for each tenfold. [A] to px. */
const thickness = (amps: number) => 1.2 + 1.6 * Math.log10(1 + amps);

interface LineProps {
  from: [number, number];
  to: [number, number];
  amps: number;
  /** Height at which the line crosses over, if it has to. */
  via?: number;
  label?: boolean;
  labelX?: number;
}

function Line({ from, to, amps, via, label = false, labelX }: LineProps) {
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

function Rail({ x, top, bottom, name, below }: RailProps) {
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

function LoadNames({ loads, top, onOpen }: LoadNamesProps) {
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
