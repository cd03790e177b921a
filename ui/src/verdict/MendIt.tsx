import { useState } from "react";
import { api } from "../api/client";
import type { Mend } from "../api/types";
import { usePlan } from "../design/selection";
import type { Stamp } from "../design/stamp";
import { useDesign } from "../design/store";
import { useAnswer } from "../design/use-answer";
import { useNotice } from "../lib/notice";
import { Button } from "../ui/Button";

const LABEL = "mend the design";

/** The fewest changes that clear every stop and fix, looked at on the drawing, taken as one step. */
export function MendIt() {
  const [asked, setAsked] = useState(false);
  const { data, stamp, standing, error } = useAnswer("mend", api.mend, { enabled: asked });
  if (!asked) {
    return (
      <p className="mb-2">
        <Button onClick={() => setAsked(true)} data-part="mend">
          Mend it for me
        </Button>
      </p>
    );
  }
  return (
    <section
      aria-label="Mend it for me"
      className="mb-3 rounded border border-river bg-card p-3 text-sm"
      data-part="mended"
      aria-busy={standing.status !== "fresh"}
    >
      <p className="flex items-baseline justify-between gap-2 font-head font-semibold">
        Mend it for me
        <Button look="quiet" onClick={() => setAsked(false)} aria-label="Close Mend it for me">
          Close
        </Button>
      </p>
      {error ? (
        <p role="alert" className="text-stop">
          {error.message}
        </p>
      ) : data && stamp && standing.status === "fresh" ? (
        <Changes mend={data} stamp={stamp} onTaken={() => setAsked(false)} />
      ) : (
        <p aria-live="polite">Trying changes, each through the whole design …</p>
      )}
    </section>
  );
}

interface ChangesProps {
  mend: Mend;
  stamp: Stamp;
  onTaken: () => void;
}

function Changes({ mend, stamp, onTaken }: ChangesProps) {
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const preview = usePlan((state) => state.preview);
  const setPreview = usePlan((state) => state.setPreview);
  const shown = preview?.label === LABEL;
  const take = () => {
    setPreview(null);
    if (!apply(LABEL, mend.edits, stamp)) return;
    notify(`${mend.steps.length} changes made: ${mend.before} → ${mend.after}.`, {
      label: "Undo",
      act: undo,
    });
    onTaken();
  };
  return (
    <>
      {mend.steps.length ? (
        <>
          <p data-part="mend-says">
            {mend.steps.length === 1 ? "One change" : `${mend.steps.length} changes`}:{" "}
            {mend.before === mend.after
              ? "the hours stay as they are"
              : `${mend.before} → ${mend.after}`}
            .
          </p>
          <ol className="my-1 list-decimal space-y-1 pl-5">
            {mend.steps.map((step) => (
              <li key={step.label}>
                {step.label}
                <span className="block text-soft text-xs">
                  {step.solves.length ? `Solves: ${step.solves.join("; ")}` : "It lasts longer."}
                </span>
              </li>
            ))}
          </ol>
          <p className="flex gap-2">
            <Button look="main" onClick={take} data-part="mend-take">
              Make these changes
            </Button>
            <Button
              onClick={() => setPreview(shown ? null : { label: LABEL, edits: mend.edits, stamp })}
              aria-pressed={shown}
            >
              Preview
            </Button>
          </p>
        </>
      ) : null}
      {mend.left.length ? (
        <div className="mt-2" data-part="mend-left">
          <p className="font-semibold">What stays, and needs you:</p>
          <ul className="list-disc space-y-1 pl-5">
            {mend.left.map((one) => (
              <li key={one.title}>
                {one.title}. <span className="text-soft">{one.reason}</span>
                {one.ways.length ? <span className="block">{one.ways.join(" ")}</span> : null}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
    </>
  );
}
