import type { KeyboardEvent, ReactNode } from "react";
import type { Bank, Joint, Judgement, Stage } from "../api/types";
import { quantity } from "../lib/format";
import { BankPicture, bankPictureSize } from "../pictures/BankPicture";
import { SEVERITIES } from "../pictures/severities";
import { WindowStrip } from "../pictures/WindowStrip";
import type { PlacedBox } from "./placed";
import { useDrawn, worstOf } from "./use-drawn";

interface ThingProps {
  id: string;
  /** All that is to be said of it. */
  words: string;
  children: ReactNode;
}

/** A thing of the drawing: a click selects and opens it, Enter opens it; arrows lead on. */
export function Thing({ id, words, children }: ThingProps) {
  const { selected, reached, changed, evaluation, onSelect, onOpen } = useDrawn();
  const joint = evaluation.joints.find((one) => one.subject === id);
  const worst = worstOf(evaluation.findings, id);
  const finding = worst ? `. ${SEVERITIES[worst.severity].word}: ${worst.title}` : "";
  const key = (event: KeyboardEvent) => {
    if (event.key !== "Enter" && event.key !== " ") return;
    event.preventDefault();
    onOpen(id);
  };
  return (
    <g
      role="button"
      tabIndex={reached === id ? 0 : -1}
      // Its name are the words inside of it; this says what they cannot.
      aria-description={`${words}${joint ? `. ${voltsOf(joint)}` : ""}${finding}${changed.has(id) ? ". Changed by the preview" : ""}`}
      aria-pressed={selected === id}
      data-thing={id}
      data-severity={worst?.severity}
      data-changed={changed.has(id)}
      className="thing cursor-pointer"
      onClick={() => onOpen(id)}
      onFocus={() => onSelect(id)}
      onKeyDown={key}
    >
      {children}
    </g>
  );
}

/** The gravest finding on a thing, on the edge of its box: shape, word and colour. */
export function Mark({ x, y, worst }: { x: number; y: number; worst: Judgement | undefined }) {
  if (!worst) return null;
  const { shape, word } = SEVERITIES[worst.severity];
  return (
    <g transform={`translate(${x} ${y})`}>
      <rect
        x={-4}
        y={-11}
        width={word.length * 7.2 + 24}
        height={17}
        rx={4}
        fill={`var(--${worst.severity})`}
      />
      <text x={2} y={2} fontSize={12} fontWeight={700} fill="var(--paper)">
        {shape} {word}
      </text>
    </g>
  );
}

/** What arrives at a joint and what is accepted, in words. */
export const voltsOf = (joint: Joint) =>
  `${quantity(joint.arrives_low_v, "V")} to ${quantity(joint.arrives_high_v, "V")} arrive, ${quantity(joint.least_v, "V")} to ${quantity(joint.most_v, "V")} are accepted`;

export const cut = (text: string, most: number) =>
  text.length > most ? `${text.slice(0, most - 1).trim()}…` : text;

interface FrameProps {
  box: PlacedBox;
  title: string;
  lines: string[];
}

export function Frame({ box, title, lines }: FrameProps) {
  const { selected, changed, evaluation } = useDrawn();
  const worst = worstOf(evaluation.findings, box.id);
  // A long name is written smaller before it is cut.
  const size = title.length > (box.w - 14) / 6.9 ? 11.5 : 13;
  const room = Math.floor((box.w - 14) / (size * 0.53));
  const edge = worst ? `var(--${worst.severity})` : "var(--ink)";
  return (
    <>
      <rect
        x={box.x}
        y={box.y}
        width={box.w}
        height={box.h}
        rx={5}
        fill={selected === box.id ? "var(--river-wash)" : "var(--card)"}
        stroke={changed.has(box.id) ? "var(--moss)" : edge}
        strokeWidth={changed.has(box.id) ? 2.5 : worst ? 1.8 : 1.3}
        strokeDasharray={changed.has(box.id) ? "6 3" : undefined}
        className="ring"
      />
      <text
        x={box.x + 9}
        y={box.y + 20}
        fontSize={size}
        fontWeight={700}
        fill="var(--ink)"
        fontFamily="var(--font-head)"
      >
        {cut(title, room)}
        {title.length > room ? <title>{title}</title> : null}
      </text>
      {lines.map((line, index) => (
        <text key={line} x={box.x + 9} y={box.y + 37 + index * 16} fontSize={12} fill="var(--soft)">
          {cut(line, Math.floor((box.w - 12) / 6.3))}
          {line.length > Math.floor((box.w - 12) / 6.3) ? <title>{line}</title> : null}
        </text>
      ))}
      <Mark x={box.x + 10} y={box.y} worst={worst} />
    </>
  );
}

export function StageBox({ box, stage }: { box: PlacedBox; stage: Stage }) {
  const { evaluation } = useDrawn();
  const figure = (name: string) => evaluation.figures[`stage.${stage.id}.${name}`]?.value;
  const watts = figure("running_w");
  const share = figure("share");
  const carries =
    watts === undefined
      ? "carries nothing"
      : `carries ${quantity(watts, "W")}, ${quantity(share ?? 0, "share", 2)}`;
  const lines = stage.kind === "feed" ? ["plain fused feed"] : [kindOf(stage), carries];
  return (
    <Thing id={stage.id} words={`${stage.name}: ${lines.join(", ")}`}>
      <Frame box={box} title={stage.name} lines={lines} />
    </Thing>
  );
}

/** What a stage is, in a few words. */
export function kindOf(stage: Stage): string {
  if (stage.kind === "feed") return "plain fused feed";
  if (stage.kind === "inverter") {
    const idles = `idles ${quantity(stage.idle_w, "W")}`;
    return `${stage.waveform} · ${stage.transfer ? "mains first" : idles}`;
  }
  if (stage.topology === "linear") return "linear";
  return `${stage.topology} · ${quantity(stage.full_load.efficiency, "share", 2)}`;
}

export function StoreBox({ box, bank, narrow }: { box: PlacedBox; bank: Bank; narrow: boolean }) {
  const { evaluation } = useDrawn();
  const wh = evaluation.figures[`store.${bank.id}.wh`]?.value ?? 0;
  const wiring = evaluation.wirings.find((one) => one.store === bank.id);
  const what = `${bank.series}S ${bank.parallel}P · ${quantity(wh, "Wh")}`;
  const size = bankPictureSize(bank.series, bank.parallel);
  const scale = Math.min(1, 118 / size.width, 150 / size.height);
  const joined =
    bank.parallel > 1 ? ["plus at one end,", "minus at the other"] : ["one in parallel"];
  return (
    <Thing id={bank.id} words={`${bank.name}: ${what}`}>
      <Frame box={box} title={bank.name} lines={[what]} />
      {wiring && !narrow ? (
        <>
          <g transform={`translate(${box.x + 14} ${box.y + 50}) scale(${scale})`}>
            <BankPicture bank={bank} wiring={wiring} />
          </g>
          {joined.map((line, index) => (
            <text
              key={line}
              x={box.x + 9}
              y={box.y + 66 + size.height * scale + index * 14}
              fontSize={11}
              fill="var(--soft)"
            >
              {line}
            </text>
          ))}
        </>
      ) : null}
    </Thing>
  );
}

interface StripProps {
  subject: string;
  x: number;
  y: number;
  w: number;
}

/** What arrives on what is accepted, drawn where they meet. */
export function Strip({ subject, x, y, w }: StripProps) {
  const { evaluation } = useDrawn();
  const joint = evaluation.joints.find((one) => one.subject === subject);
  if (!joint) return null;
  return (
    <g transform={`translate(${x} ${y})`}>
      <WindowStrip joint={joint} width={w} />
    </g>
  );
}
