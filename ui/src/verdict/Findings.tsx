import type { Fix, Judgement } from "../api/types";
import { usePlan } from "../design/selection";
import { useDesign } from "../design/store";
import { useWorked } from "../design/use-evaluation";
import { FigureButton } from "../editor/FigureButton";
import { SEVERITIES } from "../pictures/severities";
import { MendIt } from "./MendIt";

/** Findings, the gravest first; what is only worth knowing folds below. */
export function Findings() {
  const { evaluation } = useWorked();
  const open = evaluation.findings.filter((finding) => finding.severity !== "note");
  const notes = evaluation.findings.filter((finding) => finding.severity === "note");
  return (
    <section aria-label="Findings">
      {open.length === 0 ? (
        <p className="rounded border border-moss px-3 py-2 text-sm">
          <span aria-hidden="true" className="mr-1 text-moss">
            ✓
          </span>
          No problems found.
        </p>
      ) : null}
      {open.some((finding) => finding.severity !== "watch") ? <MendIt /> : null}
      <ul className="space-y-2">
        {open.map((finding, at) => (
          <Finding
            key={`${finding.code}-${finding.subject}`}
            finding={finding}
            first={finding.severity !== open[at - 1]?.severity}
          />
        ))}
      </ul>
      {notes.length ? (
        <details className="mt-3">
          <summary className="font-semibold text-sm">Worth knowing: {notes.length}</summary>
          <ul className="mt-2 space-y-2">
            {notes.map((finding) => (
              <Finding key={finding.code} finding={finding} />
            ))}
          </ul>
        </details>
      ) : null}
    </section>
  );
}

interface FindingProps {
  finding: Judgement;
  /** Whether a drawing stands beside it that can show a fix before it is taken. */
  previews?: boolean;
  /** Whether its severity is met here first: then the word says what it means. */
  first?: boolean;
}

/** One judgement: what, why with its figures, and the ways out. */
export function Finding({ finding, previews = true, first = false }: FindingProps) {
  const { reference } = useWorked();
  const { word, means, shape, colour } = SEVERITIES[finding.severity];
  return (
    <li
      className={`border-l-4 bg-card py-1.5 pr-2 pl-3 text-sm ${colour.split(" ")[1]}`}
      data-finding={finding.code}
      data-severity={finding.severity}
    >
      <p>
        <strong className={colour.split(" ")[0]}>
          <span aria-hidden="true">{shape}</span> {word}
          {first ? `, ${means}` : ""}.
        </strong>{" "}
        {finding.title}.
      </p>
      <details className="mt-0.5" open={finding.severity === "stop"}>
        <summary className="text-soft text-xs">Why</summary>
        <p className="mt-1 text-sm">{finding.reason}</p>
        {finding.figures.length ? (
          <p className="mt-1 flex flex-wrap gap-x-3 text-sm">
            {finding.figures.map((key) => (
              <NamedFigure key={key} of={key} />
            ))}
          </p>
        ) : null}
        <p className="mt-1 text-soft text-xs">
          {finding.sources.map((key) => reference.sources[key]?.text).join(" ")}
        </p>
      </details>
      <ul className="mt-1 space-y-1">
        {finding.fixes.map((fix) => (
          <FixLine key={fix.label} fix={fix} previews={previews} />
        ))}
      </ul>
    </li>
  );
}

function NamedFigure({ of }: { of: string }) {
  const { evaluation } = useWorked();
  const figure = evaluation.figures[of];
  if (!figure) return null;
  return (
    <span>
      {figure.name} <FigureButton of={of} />
    </span>
  );
}

/** What taking a fix would do, in words. */
export function effectOf({ effect }: Fix): string {
  if (!effect) return "working out what it would do …";
  const { brings, text } = effect;
  return `${text}${brings.length ? `; adds a problem: ${brings.join("; ")}` : ""}`;
}

/** A way out with its effect: taken at once, or looked at on the drawing first. */
function FixLine({ fix, previews }: { fix: Fix; previews: boolean }) {
  const { stamp } = useWorked();
  const apply = useDesign((state) => state.apply);
  const preview = usePlan((state) => state.preview);
  const setPreview = usePlan((state) => state.setPreview);
  if (!fix.edits.length) return <li className="text-sm">{fix.label}</li>;
  const effect = effectOf(fix);
  const shown = preview?.label === fix.label;
  return (
    <li className="text-sm">
      <button
        type="button"
        className="text-left text-river underline underline-offset-2 hover:decoration-2 disabled:text-soft disabled:no-underline"
        // Tried before it is offered: until then it is only named.
        disabled={!fix.effect}
        onClick={() => apply(fix.label, fix.edits, stamp)}
        data-fix={fix.label}
      >
        {fix.label}
      </button>{" "}
      {previews ? (
        <button
          type="button"
          className="rounded border border-edge px-1.5 text-xs hover:border-river"
          aria-pressed={shown}
          aria-label={`Preview: ${fix.label}`}
          onClick={() => setPreview(shown ? null : { label: fix.label, edits: fix.edits, stamp })}
        >
          preview
        </button>
      ) : null}
      <span className="block text-soft text-xs" data-effect={fix.effect !== null}>
        {effect}
      </span>
    </li>
  );
}
