import type { Design, Load, Stage } from "../api/types";
import { bankOf } from "../design/edits";
import { useDesign } from "../design/store";
import { useWorked } from "../design/use-evaluation";
import { WindowStrip } from "../parts/WindowStrip";
import { quantity } from "../units/format";
import { BankPicture, bankPictureSize, takeOffY } from "./BankPicture";
import {
  edgeOf,
  LINE_H,
  Line,
  LoadNames,
  MOST_LOADS,
  Part,
  Rail,
  Title,
  thickness,
  WIDTH,
} from "./drawing-parts";
import type { PanelName } from "./panels";

const RAIL_X = 252;
const BOX_X = 366;
const BOX_W = 176;
const END_X = 628;
const TOP = 52;
const GAP = 58;

interface DrawingProps {
  onOpen: (panel: PanelName) => void;
}

/** A stage with the rail it makes, or loads straight on a store or on nothing. */
interface Section {
  key: string;
  stage: Stage | null;
  title: string;
  loads: Load[];
  top: number;
  rows: number;
}

/** Sections from top to bottom, each as high as its loads need. Pure. */
function sectionsOf(design: Design): Section[] {
  const sections: Section[] = [];
  let top = TOP;
  const add = (key: string, stage: Stage | null, title: string, least: number) => {
    const loads = design.loads.filter((load) => (load.rail ?? "") === key);
    if (!loads.length && !least) return;
    const rows = Math.max(Math.min(loads.length, MOST_LOADS), least);
    sections.push({ key, stage, title, loads, top, rows });
    top += rows * LINE_H + GAP;
  };
  for (const stage of design.stages) add(stage.id, stage, "", stage.kind === "feed" ? 2 : 4);
  for (const store of design.stores) {
    add(store.id, null, store.name, design.stages.length || store !== design.stores[0] ? 0 : 1);
  }
  add("", null, "on no rail", 0);
  return sections;
}

/** The system as the program sees it: store at left, rails as thick lines, loads at right. */
export function Drawing({ onOpen }: DrawingProps) {
  const { evaluation } = useWorked();
  const design = useDesign((state) => state.document);
  if (!design) return null;
  const bank = bankOf(design);
  const amps = (name: string) => evaluation.figures[`store.${bank.id}.${name}`]?.value ?? 0;
  const sections = sectionsOf(design);
  const last = sections.at(-1);
  const picture = bankPictureSize(bank.series, bank.parallel);
  const scale = Math.min(1, 118 / picture.width, 190 / picture.height);
  const bottom = last ? last.top + last.rows * LINE_H + 22 : 0;
  const height = Math.max(bottom, picture.height * scale + 130);
  const bankY = 80;
  const wiring = evaluation.wirings.find((one) => one.store === bank.id);
  const minusY = takeOffY(Math.min(wiring?.negative_string ?? 0, 3));

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
            {bank.series}S {bank.parallel}P · {quantity(amps("wh"), "Wh")}
          </text>
          {wiring ? (
            <g transform={`translate(14 ${bankY}) scale(${scale})`}>
              <BankPicture bank={bank} wiring={wiring} />
            </g>
          ) : null}
          <path
            d={`M${14 + (picture.width - 8) * scale} ${bankY + minusY * scale}h22`}
            stroke="var(--ink)"
            strokeWidth={thickness(amps("running_design_a"))}
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
          amps={amps("running_design_a")}
        />
        <Rail
          x={RAIL_X}
          top={34}
          bottom={height - 26}
          name={`${quantity(amps("volts"), "V")} DC`}
          below={`${quantity(amps("empty_v"), "V")} – ${quantity(amps("full_v"), "V")}`}
        />
        {sections.map((section) =>
          section.stage ? (
            <StageSection
              key={section.key}
              section={section}
              stage={section.stage}
              design={design}
              onOpen={onOpen}
            />
          ) : (
            <StraightSection key={section.key} section={section} design={design} onOpen={onOpen} />
          ),
        )}
      </svg>
    </section>
  );
}

interface SectionProps extends DrawingProps {
  section: Section;
  design: Design;
}

function StageSection({ section, stage, design, onOpen }: SectionProps & { stage: Stage }) {
  const { evaluation } = useWorked();
  const figure = (name: string) => evaluation.figures[`stage.${stage.id}.${name}`]?.value ?? 0;
  const middle = section.top + (section.rows * LINE_H) / 2 - 6;
  const joint = evaluation.joints.find((one) => one.subject === stage.id);
  const parent = design.stages.find((one) => one.id === stage.rail);
  const [what, carries] = wordsOf(stage, figure);
  return (
    <>
      <Line
        from={[parent ? RAIL_X + 24 : RAIL_X, middle]}
        to={[BOX_X, middle]}
        amps={figure("input_a")}
        label={stage.kind !== "feed"}
      />
      {parent ? (
        <text x={RAIL_X + 24} y={middle + 16} fontSize={11} fill="var(--soft)">
          from {railName(parent) || parent.name.slice(0, 12)}
        </text>
      ) : null}
      <Part name="inverter" onOpen={() => onOpen("inverter")}>
        <rect
          x={BOX_X}
          y={middle - 33}
          width={BOX_W}
          height={68}
          rx={5}
          fill="var(--card)"
          stroke={edgeOf(evaluation.findings, stage.id)}
          strokeWidth={1.6}
        />
        <Title
          x={BOX_X + 10}
          y={middle - 13}
          text={stage.name}
          most={21}
          findings={evaluation.findings}
          subject={stage.id}
        />
        <text x={BOX_X + 10} y={middle + 4} fontSize={12} fill="var(--soft)">
          {what}
        </text>
        <text x={BOX_X + 10} y={middle + 21} fontSize={12} fill="var(--soft)">
          {carries}
        </text>
      </Part>
      <Line
        from={[BOX_X + BOX_W, middle]}
        to={[END_X, middle]}
        amps={figure("output_a")}
        label={stage.kind !== "feed"}
      />
      <Rail
        x={END_X}
        top={section.top - 18}
        bottom={section.top + section.rows * LINE_H - 2}
        name={railName(stage)}
      />
      {joint ? (
        <foreignObject x={BOX_X + 8} y={middle + 38} width={160} height={38}>
          <WindowStrip joint={joint} width={160} />
        </foreignObject>
      ) : null}
      <LoadNames loads={section.loads} top={section.top} onOpen={onOpen} />
    </>
  );
}

/** What stands in a stage's box: what it is, and what it carries. */
function wordsOf(stage: Stage, figure: (name: string) => number): [string, string] {
  if (stage.kind === "feed") return ["plain feed", ""];
  const carries = `carries ${quantity(figure("running_w"), "W")}, ${quantity(figure("share"), "share", 2)}`;
  if (stage.kind === "inverter") {
    return [`${stage.waveform} · idles ${quantity(stage.idle_w, "W")}`, carries];
  }
  if (stage.topology === "linear") return ["linear", carries];
  return [`${stage.topology} · ${quantity(stage.full_load.efficiency, "share", 2)}`, carries];
}

function railName(stage: Stage): string {
  if (stage.kind === "inverter") return `${quantity(stage.output_v, "V")} AC`;
  return stage.kind === "converter" ? `${quantity(stage.set_v, "V")} DC` : "";
}

/** Loads straight on a store, or on nothing yet. */
function StraightSection({ section, design, onOpen }: SectionProps) {
  const { evaluation } = useWorked();
  const middle = section.top + (section.rows * LINE_H) / 2 - 6;
  const first = section.key === bankOf(design).id;
  const value = (name: string) => evaluation.figures[`store.${section.key}.${name}`]?.value ?? 0;
  return (
    <>
      {first ? (
        <Line
          from={[RAIL_X, middle]}
          to={[END_X, middle]}
          amps={value("dc_a")}
          label
          labelX={(RAIL_X + BOX_X) / 2}
        />
      ) : null}
      {section.key ? (
        <Rail
          x={END_X}
          top={section.top - 18}
          bottom={section.top + section.rows * LINE_H - 4}
          name={first ? `${quantity(value("volts"), "V")} DC` : section.title}
        />
      ) : (
        <text x={END_X - 12} y={section.top} fontSize={12} textAnchor="end" fill="var(--fix)">
          {section.title}
        </text>
      )}
      <LoadNames loads={section.loads} top={section.top} onOpen={onOpen} />
    </>
  );
}
