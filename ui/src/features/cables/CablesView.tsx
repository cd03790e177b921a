import { useState } from "react";
import { useLocation } from "react-router";
import { api } from "../../api/client";
import type { CableRow, WorkedCables } from "../../api/types";
import { SCHOOLS } from "../../design/cable-text";
import type { Stamp } from "../../design/stamp";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { useWorked } from "../../design/use-evaluation";
import { WithFigures } from "../../design/WithFigures";
import { Answered } from "../../editor/Answered";
import { FigureButton } from "../../editor/FigureButton";
import { quantity } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { CsvButton } from "../../ui/CsvButton";
import { Scroll } from "../../ui/Scroll";
import { Cautions } from "../../verdict/Cautions";
import { Finding } from "../../verdict/Findings";
import { VerdictStrip } from "../../verdict/VerdictStrip";
import { CableLine } from "./CableLine";
import { CutList } from "./CutList";
import { SchoolsTable } from "./SchoolsTable";
import { isWiring } from "./wiring";

/** Cables: every run from the posts to the loads, what it carries and what carries that safely. */
export default function CablesView() {
  const answer = useAnswer("cables", api.cables);
  return (
    <>
      <VerdictStrip />
      <main className="min-w-0 px-4 py-2">
        <Answered answer={answer} loading="Sizing the cables" failed="The cables cannot be sized">
          {(data) => (answer.stamp ? <Sized data={data} stamp={answer.stamp} /> : null)}
        </Answered>
      </main>
    </>
  );
}

function Sized({ data, stamp }: { data: WorkedCables; stamp: Stamp }) {
  const { evaluation } = useWorked();
  const [both, setBoth] = useState(false);
  const { rows, cuts, mains } = data.cables;
  const findings = evaluation.findings.filter(
    (one) => isWiring(one.code) && one.severity !== "note",
  );
  return (
    <>
      {/* Suggestions and figures are of this answer; findings and their fixes of the evaluation. */}
      <WithFigures figures={data.figures} stamp={stamp}>
        <Tools cables={data.cables} both={both} onBoth={setBoth} />
        {both ? <SchoolsTable runs={rows} /> : <Table rows={rows} sizes={data.cables.sizes} />}
      </WithFigures>
      <FromMemory sources={data.cables.sources} />
      {mains.map((one) => (
        <p key={one.rail} className="mt-1 text-sm" data-mains={one.rail}>
          <strong>{one.name}</strong>: its loads take up to {quantity(one.amps, "A")} at{" "}
          {quantity(one.volts, "V")} AC. Mains wiring follows local code: let a licensed electrician
          size and fit it; it is not sized here.
        </p>
      ))}
      <div className="mt-4 grid grid-cols-1 gap-x-8 gap-y-4 lg:grid-cols-[minmax(0,1.25fr)_minmax(0,1fr)]">
        <CutList cuts={cuts} />
        <div className="space-y-4">
          <section aria-label="Findings about wiring">
            <h2 className="text-lg">Problems</h2>
            {findings.length ? (
              <ul className="mt-1 space-y-2">
                {findings.map((finding) => (
                  <Finding
                    key={`${finding.code}-${finding.subject}`}
                    finding={finding}
                    previews={false}
                  />
                ))}
              </ul>
            ) : (
              <p className="mt-1 text-sm">
                {rows.some((row) => row.chosen)
                  ? "✓ No problems with what is chosen so far."
                  : "Nothing is chosen yet."}
              </p>
            )}
          </section>
          <Cautions />
        </div>
      </div>
    </>
  );
}

interface ToolsProps {
  cables: WorkedCables["cables"];
  both: boolean;
  onBoth: (both: boolean) => void;
}

/** Which tables and sizes are used; all suggestions at once; all tables; CSV. */
function Tools({ cables, both, onBoth }: ToolsProps) {
  const { evaluation, stamp } = useWorked();
  const { document: design, change, apply } = useDesign();
  if (!design) return null;
  const { edits, rows, usual_table: usual } = cables;
  const left = rows.filter((row) => row.edits.length).length;
  const set = (part: Partial<typeof design.setting>) =>
    change("cables by", (d) => ({ ...d, setting: { ...d.setting, ...part } }));
  return (
    <div className="no-print flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
      <h1 className="text-lg">
        Cables <span className="font-normal text-soft text-sm">for </span>
        <FigureButton of="run.hours" className="text-sm">
          {evaluation.verdict.lasts}
        </FigureButton>
      </h1>
      <span className="flex items-center gap-1.5 text-soft">
        Ampacity by
        <Choose
          label="Ampacity by"
          value={design.setting.school ?? ""}
          options={[["", `usual in a ${design.setting.place}: ${usual}`], ...SCHOOLS] as const}
          onChange={(school) => set({ school: school || null })}
        />
      </span>
      <span className="flex items-center gap-1.5 text-soft">
        Sizes in
        <Choose
          label="Sizes in"
          value={design.setting.sizes ?? "metric"}
          options={[
            ["metric", "mm²"],
            ["AWG", "AWG"],
          ]}
          onChange={(sizes) => set({ sizes })}
        />
      </span>
      <label className="flex items-center gap-1.5">
        <input type="checkbox" checked={both} onChange={(event) => onBoth(event.target.checked)} />
        All tables side by side
      </label>
      <span className="flex-1" />
      <CsvButton file="cables.csv" lines="runs" load={() => api.cablesCsv(design, "runs")}>
        Runs as CSV
      </CsvButton>
      <CsvButton file="joints.csv" lines="conductors" load={() => api.cablesCsv(design, "joints")}>
        Joints as CSV
      </CsvButton>
      <CsvButton file="cut-list.csv" lines="lines" load={() => api.cablesCsv(design, "cuts")}>
        Cut list as CSV
      </CsvButton>
      <Button
        look="main"
        disabled={!edits.length}
        onClick={() => apply("apply all suggestions", edits, stamp)}
        title="Sizes, fuses and connectors for everything that is not chosen yet"
      >
        {edits.length ? `Apply all suggestions (${left})` : "Nothing left to suggest"}
      </Button>
    </div>
  );
}

function Table({ rows, sizes }: { rows: readonly CableRow[]; sizes: "metric" | "AWG" }) {
  const [open, setOpen] = useState<string | null>(useLocation().hash.slice(1) || null);
  if (!rows.length) {
    return (
      <p className="my-4 max-w-140 rounded border border-edge border-dashed p-4">
        There is no DC run in this design: a power station's own wiring is its maker's. Add a bank,
        or connect power to the station, on the Plan.
      </p>
    );
  }
  return (
    <Scroll label="Cable runs">
      <table className="mt-1 w-full min-w-240 text-sm" data-part="cables">
        <thead className="text-left text-soft text-xs">
          <tr>
            <th className="py-1 font-normal">Run, from the posts outward</th>
            <th className="px-2 text-right font-normal">Current at lowest volts</th>
            <th className="px-2 text-right font-normal">One way</th>
            <th className="px-2 font-normal">Conductors</th>
            <th className="px-2 text-right font-normal">Voltage drop</th>
            <th className="px-2 text-right font-normal">Heat</th>
            <th className="px-2 font-normal">Fuse: load, 125 %, rating of the cable</th>
            <th className="px-2 font-normal">Connector</th>
            <th>
              <span className="sr-only">More</span>
            </th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <CableLine
              key={row.subject}
              row={row}
              sizes={sizes}
              open={open === row.subject}
              onOpen={() => setOpen(open === row.subject ? null : row.subject)}
            />
          ))}
        </tbody>
      </table>
    </Scroll>
  );
}

/** Which tables are quoted from memory, and where the method is told. */
function FromMemory({ sources }: { sources: readonly string[] }) {
  const { reference } = useWorked();
  const used = sources.map((key) => reference.sources[key]);
  const memory = used.filter((one) => one?.mark.includes("memory"));
  return (
    <details className="mt-1 text-soft text-xs" data-part="from-memory">
      <summary>
        Tables quoted from memory: check them against the published ones before you rely on them.
      </summary>
      <ul className="mt-1 list-disc pl-5">
        {memory.map((one) => (
          <li key={one?.text}>{one?.text}</li>
        ))}
      </ul>
      <p>
        All sizes are for copper: copper-clad aluminium carries less, and loses more volts. Figures
        of your cable's maker go before any table. How it is worked out:{" "}
        <a className="text-river underline" href="/method#cables" target="_blank" rel="noreferrer">
          docs/method.md
        </a>
      </p>
    </details>
  );
}
