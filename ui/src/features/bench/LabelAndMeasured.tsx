import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api } from "../../api/client";
import type { BothFigures, Design, KeptPart } from "../../api/types";
import { useShelf } from "../../api/use-shelf";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { hours } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";
import { WhatItDoes } from "./WhatItDoes";

const last = (h: number | null | undefined) => (h == null ? "longer than simulated" : hours(h));

/** Every measured figure beside that of the label, which of them counts, and what it does. */
export function LabelAndMeasured() {
  const answer = useAnswer("both-figures", (design, signal) => api.bothFigures(design, signal));
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const design = useDesign((state) => state.document);
  const notify = useNotice((state) => state.notify);
  if (!answer.data?.length) return null;
  const fresh = answer.standing.status === "fresh";
  const use = (one: BothFigures, which: "label" | "measured") => {
    const edits = which === "label" ? one.use_label : one.use_measured;
    if (!answer.stamp || !apply(`${one.name}: ${one.figure} by ${which}`, edits, answer.stamp))
      return;
    notify(`${one.name}: the ${which} figure counts now.`, { label: "Undo", act: undo });
  };
  return (
    <section aria-label="Label and measured" data-part="both-figures">
      <h2 className="text-lg">Label and measured</h2>
      <ul className="text-sm">
        {answer.data.map((one) => (
          <li
            key={`${one.subject} ${one.figure}`}
            className="border-line border-t py-1.5"
            data-both={one.subject}
            data-counts={one.counts}
          >
            <p>
              <strong>{one.name}</strong>, {one.figure.toLowerCase()}
              {one.conditions ? (
                <span className="text-soft text-xs"> measured at {one.conditions}</span>
              ) : null}
            </p>
            <span className="flex flex-wrap gap-x-6 gap-y-1">
              {(["label", "measured"] as const).map((which) => (
                <label key={which} className="flex min-h-8 items-center gap-1.5">
                  <input
                    type="radio"
                    name={`${one.subject} ${one.figure}`}
                    checked={one.counts === which}
                    disabled={!fresh}
                    onChange={() => use(one, which)}
                  />
                  {which} {which === "label" ? one.label : one.measured}
                  <span className="text-soft text-xs">
                    {last(which === "label" ? one.with_label : one.with_measured)}
                  </span>
                </label>
              ))}
              {one.counts === "neither" ? (
                <span className="self-center text-watch">other figures count now</span>
              ) : null}
              <WhatItDoes
                edits={one.counts === "measured" ? one.use_label : one.use_measured}
                label={`What the other figure of ${one.name}, ${one.figure}, does`}
              />
              <OnTheShelf one={one} design={design} />
            </span>
          </li>
        ))}
      </ul>
    </section>
  );
}

/** Puts the measured figures into the part on the shelf that this is a copy of. */
function OnTheShelf({ one, design }: { one: BothFigures; design: Design | null }) {
  const shelf = useShelf();
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const figures = design?.measured?.find(
    (x) => x.subject === one.subject && x.name === one.figure,
  )?.measured;
  const kept = shelf.data?.find((part) => part.id === copyOf(design, one.subject));
  if (!kept || !figures) return null;
  const refresh = () => queries.invalidateQueries({ queryKey: ["shelf"] });
  const put = async () => {
    try {
      const part = await api.withMeasured(kept.part, figures);
      const saved = await api.savePart(kept.id, kept.revision, part);
      await refresh();
      notify(`${kept.part.name} on the shelf has the measured figures. Its copies tell so.`, {
        label: "Undo",
        act: () => void api.savePart(saved.id, saved.revision, kept.part).then(refresh),
      });
    } catch (error) {
      notify(`Not kept: ${(error as Error).message}`);
    }
  };
  return (
    <>
      <Button look="quiet" onClick={() => void put()}>
        Put into {kept.part.name} on the shelf
      </Button>
      <Copies part={kept} />
    </>
  );
}

/** The designs that hold a copy of a part, to be opened and brought up to date. */
function Copies({ part }: { part: KeptPart }) {
  const here = useDesign((state) => state.id);
  const copies = useQuery({
    queryKey: ["copies", part.id, part.revision],
    queryFn: () => api.copiesOf(part.id),
  });
  const others = (copies.data ?? []).filter((one) => one.id !== here);
  if (!others.length) return null;
  return (
    <span className="w-full text-soft text-xs" data-part="copies">
      {part.part.name} is also in{" "}
      {others.map((one, n) => (
        <span key={one.id}>
          {n ? ", " : ""}
          <a className="text-river underline" href={`/d/${one.id}/plan`}>
            {one.name}
          </a>
          {one.revisions.some((revision) => revision < part.revision)
            ? " (with its figures of before)"
            : ""}
        </span>
      ))}
    </span>
  );
}

/** The part on the shelf that a store, stage or charger of a design is a copy of. */
function copyOf(design: Design | null, subject: string): string | undefined {
  const store = design?.stores.find((one) => one.id === subject);
  if (store?.kind === "bank") return store.battery.shelf?.part;
  if (store?.kind === "station") return store.shelf?.part;
  const stage = design?.stages.find((one) => one.id === subject);
  return stage && stage.kind !== "feed" ? stage.shelf?.part : undefined;
}
