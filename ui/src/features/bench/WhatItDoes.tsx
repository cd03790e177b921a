import { useState } from "react";
import { api } from "../../api/client";
import type { Edit, FiguresEffect } from "../../api/types";
import { patched } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { hours } from "../../lib/format";
import { Button } from "../../ui/Button";

/** What other figures would do to the design, on request: hours, likely range, findings. */
export function WhatItDoes({ edits, label }: { edits: readonly Edit[]; label: string }) {
  const [open, setOpen] = useState(false);
  return (
    <>
      <Button look="quiet" aria-expanded={open} aria-label={label} onClick={() => setOpen(!open)}>
        What it does
      </Button>
      {open ? <Effect edits={edits} /> : null}
    </>
  );
}

function Effect({ edits }: { edits: readonly Edit[] }) {
  const answer = useAnswer(
    "figures-effect",
    (design, signal) => api.effect(design, patched(design, edits) ?? design, signal),
    { key: [JSON.stringify(edits)] },
  );
  if (answer.error) {
    return (
      <p role="alert" className="w-full text-sm text-stop">
        It could not be worked out: {answer.error.message}
      </p>
    );
  }
  if (!answer.data || answer.standing.status !== "fresh") {
    return (
      <p role="status" className="w-full text-soft text-sm">
        Working it out…
      </p>
    );
  }
  const { before, after, solves, adds } = answer.data;
  return (
    <ul className="w-full text-sm" data-part="effect">
      <li>
        Lasts: {before.lasts} → <strong>{after.lasts}</strong>
      </li>
      <li>
        Likely range: {range(before)} → <strong>{range(after)}</strong>
      </li>
      <Titles what="Solves" titles={solves} />
      <Titles what="Adds" titles={adds} />
      {solves.length || adds.length ? null : <li>The findings stay as they are.</li>}
    </ul>
  );
}

function range({ p10, p90 }: FiguresEffect["before"]): string {
  if (p10 === null) return "longer than simulated";
  if (p90 === null) return `${hours(p10)} to longer`;
  const [low, high] = [hours(p10), hours(p90)];
  return low === high ? low : `${low} to ${high}`;
}

function Titles({ what, titles }: { what: string; titles: readonly string[] }) {
  if (!titles.length) return null;
  return (
    <li>
      {what}: {titles.join("; ")}
    </li>
  );
}
