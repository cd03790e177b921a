import { useEffect, useMemo, useState } from "react";
import { api } from "../../api/client";
import type { Design, Moment } from "../../api/types";
import { dcRails } from "../../design/edits";
import { panelOf } from "../../design/panels";
import { usePlan } from "../../design/selection";
import { sameStamp } from "../../design/stamp";
import { patched, useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { useWorked } from "../../design/use-evaluation";
import { Drawing } from "../../drawing/Drawing";
import { clock } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { useSettings } from "../../lib/settings";
import { Button } from "../../ui/Button";
import { effectOf } from "../../verdict/Findings";

const NOTHING: ReadonlySet<string> = new Set();

/** The drawing on the Plan, at the moment chosen, before or after what is previewed. */
export function Sketch() {
  const { evaluation } = useWorked();
  const design = useDesign((state) => state.document);
  const { selected, select, show, openLoad, drawnAt, preview } = usePlan();
  const after = usePreviewed(design);
  const [side, setSide] = useState<"before" | "after">("after");
  const share = useSettings((state) => state.drawingShare);
  const folded = useSettings((state) => state.drawingFolded);
  if (!design) return null;
  const previewing = preview && after && side === "after";
  const shown = previewing ? after : { design, evaluation, changed: NOTHING };
  const open = (id: string) => {
    select(id);
    show(panelOf(design, id));
    if (design.loads.some((load) => load.id === id)) openLoad(id);
    focusFirstField(id);
  };
  return (
    <>
      {preview ? <PreviewBar side={side} setSide={setSide} ready={after !== null} /> : null}
      <Moments moments={shown.evaluation.run.moments} startsAt={design.setting.starts_at_h} />
      {folded ? null : (
        <Drawing
          maxHeight={`${share * 100}vh`}
          design={shown.design}
          evaluation={shown.evaluation}
          moment={momentOf(shown.evaluation.run.moments, drawnAt)}
          changed={shown.changed}
          selected={selected}
          onSelect={select}
          onOpen={open}
        />
      )}
    </>
  );
}

/** Go to the first field of what was opened, as soon as its panel is there. */
function focusFirstField(id: string, left = 40, from = document.activeElement): void {
  setTimeout(() => {
    // Somebody went on to something else meanwhile.
    if (document.activeElement !== from) return;
    const panel = document.querySelector("[data-panel][data-state=active]");
    const at = panel?.querySelector(`[data-load="${CSS.escape(id)}"]`) ?? panel;
    const field = at?.querySelector<HTMLElement>("input:not([type=checkbox]), select");
    if (field) field.focus();
    else if (left) focusFirstField(id, left - 1, from);
  }, 30);
}

function momentOf(moments: readonly Moment[], at: "most" | "worst" | number): Moment | null {
  if (at === "worst") return null;
  const most = moments.find((one) => one.most) ?? null;
  if (at === "most") return most;
  return moments.find((one) => one.hours === at) ?? most;
}

/** The design with the previewed edits, worked out, and the ids they touch. */
function usePreviewed(design: Design | null) {
  const preview = usePlan((state) => state.preview);
  const setPreview = usePlan((state) => state.setPreview);
  const notify = useNotice((state) => state.notify);
  const id = useDesign((state) => state.id);
  const version = useDesign((state) => state.version);
  const changed = useMemo(() => {
    if (!design || !preview) return null;
    return patched(design, preview.edits);
  }, [design, preview]);
  const ended = preview !== null && !sameStamp(preview.stamp, { design: id, version });
  useEffect(() => {
    if (!ended) return;
    setPreview(null);
    notify("The preview ended, because the design changed.");
  }, [ended, setPreview, notify]);
  const { data, standing } = useAnswer(
    "preview",
    (_, signal) => api.evaluate(changed as Design, true, signal),
    { key: [preview?.label], enabled: changed !== null && !ended },
  );
  const fresh = standing.status === "fresh";
  return useMemo(() => {
    if (!design || !changed || !data || !fresh) return null;
    const before = new Map(
      [...design.stores, ...design.stages, ...design.links, ...design.loads].map((x) => [
        x.id,
        JSON.stringify(x),
      ]),
    );
    const touched = [
      ...changed.stores,
      ...changed.stages,
      ...changed.links,
      ...changed.loads,
    ].filter((one) => before.get(one.id) !== JSON.stringify(one));
    return {
      design: changed,
      evaluation: data,
      changed: new Set(touched.map((one) => one.id)) as ReadonlySet<string>,
    };
  }, [design, changed, data, fresh]);
}

interface PreviewBarProps {
  side: "before" | "after";
  setSide: (side: "before" | "after") => void;
  ready: boolean;
}

/** What is previewed, its effect, before and after, and the two ways on. */
function PreviewBar({ side, setSide, ready }: PreviewBarProps) {
  const { evaluation } = useWorked();
  const { preview, setPreview } = usePlan();
  const apply = useDesign((state) => state.apply);
  useEffect(() => {
    const press = (event: KeyboardEvent) => event.key === "Escape" && setPreview(null);
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [setPreview]);
  if (!preview) return null;
  const fix = evaluation.findings
    .flatMap((finding) => finding.fixes)
    .find((one) => one.label === preview.label);
  const take = () => {
    apply(preview.label, preview.edits, preview.stamp);
    setPreview(null);
  };
  return (
    <div
      className="mb-1 flex flex-wrap items-center gap-x-3 gap-y-1 rounded border border-moss bg-card px-3 py-1.5 text-sm"
      role="status"
      data-part="preview"
    >
      <span>
        <strong className="text-moss">Preview.</strong> {preview.label}{" "}
        <span className="text-soft">{fix ? effectOf(fix) : preview.says}</span>
      </span>
      <span className="flex-1" />
      <fieldset className="flex overflow-hidden rounded border border-edge">
        <legend className="sr-only">Drawing shows</legend>
        {(["before", "after"] as const).map((one) => (
          <button
            key={one}
            type="button"
            aria-pressed={side === one}
            className="px-2 py-0.5 aria-pressed:bg-river aria-pressed:text-on-river"
            onClick={() => setSide(one)}
          >
            {one}
          </button>
        ))}
      </fieldset>
      <Button look="main" onClick={take} disabled={!ready}>
        Apply
      </Button>
      <Button look="quiet" onClick={() => setPreview(null)}>
        Cancel
      </Button>
    </div>
  );
}

/** The moment that is drawn: stepped through, or chosen. */
function Moments({ moments, startsAt }: { moments: readonly Moment[]; startsAt: number }) {
  const { drawnAt, drawAt, selected, ask } = usePlan();
  const folded = useSettings((state) => state.drawingFolded);
  const set = useSettings((state) => state.set);
  const design = useDesign((state) => state.document);
  const most = moments.findIndex((one) => one.most);
  const at = typeof drawnAt === "number" ? moments.findIndex((m) => m.hours === drawnAt) : most;
  const step = (by: number) => {
    const next = moments[(at < 0 ? most : at) + by];
    if (next) drawAt(next.hours);
  };
  const value = typeof drawnAt === "number" && at < 0 ? "most" : String(drawnAt);
  const busiest = moments[most];
  const timeOf = (one: Moment) => {
    const day = Math.floor((startsAt + one.hours) / 24) + 1;
    return `${clock(startsAt + one.hours)}${day > 1 ? `, day ${day}` : ""}`;
  };
  const rails = new Set(design ? dcRails(design).map(([id]) => id) : []);
  return (
    <div className="no-print flex flex-wrap items-center gap-1 text-sm">
      <label className="flex items-center gap-1.5 text-soft">
        Volts and amps
        <select
          className="field"
          aria-label="Drawn at"
          value={value}
          onChange={(event) => {
            const given = event.target.value;
            drawAt(given === "most" || given === "worst" ? given : Number(given));
          }}
        >
          <option value="most">when most runs{busiest ? `: ${timeOf(busiest)}` : ""}</option>
          <option value="worst">worst case: lowest volts, highest start</option>
          {moments.map((one) => (
            <option key={one.hours} value={one.hours}>
              at {timeOf(one)}
            </option>
          ))}
        </select>
      </label>
      <Button look="quiet" onClick={() => step(-1)} disabled={at <= 0} title="Moment before">
        ◂<span className="sr-only">Moment before</span>
      </Button>
      <Button
        look="quiet"
        onClick={() => step(1)}
        disabled={at < 0 || at >= moments.length - 1}
        title="Next moment"
      >
        ▸<span className="sr-only">Next moment</span>
      </Button>
      <span className="flex-1" />
      <Button look="quiet" aria-expanded={!folded} onClick={() => set({ drawingFolded: !folded })}>
        {folded ? "▾ Show the drawing" : "▴ Fold the drawing"}
      </Button>
      <Button
        look="quiet"
        onClick={() =>
          ask({
            what: "add",
            on: selected && rails.has(selected) ? selected : "",
          })
        }
      >
        + Add a rail or inverter
      </Button>
    </div>
  );
}
