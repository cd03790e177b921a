import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../../api/client";
import type { BenchBook, Judged, KeptReading } from "../../api/types";
import type { Stamp } from "../../design/stamp";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { NumberField } from "../../editor/NumberField";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";
import { inOneLine, isLook, type Look, titleOf } from "./fields";
import { JudgedLine } from "./JudgedLine";
import { WhatItDoes } from "./WhatItDoes";

/** All readings of the design, each judged by the design as it is now. */
export function ReadingList() {
  const id = useDesign((state) => state.id);
  const kept = useQuery({ queryKey: ["readings", id], queryFn: () => api.readings(id) });
  const readings = kept.data ?? [];
  const judged = useAnswer(
    "judge-readings",
    (design, signal) =>
      api.judgeReadings(
        design,
        readings.map((one) => one.reading),
        signal,
      ),
    { key: [JSON.stringify(readings.map((one) => one.reading))], enabled: readings.length > 0 },
  );
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const bringIn = async (file: File | undefined) => {
    if (!file) return;
    try {
      const count = await api.importBenchBook(id, JSON.parse(await file.text()) as BenchBook);
      await queries.invalidateQueries({ queryKey: ["readings", id] });
      notify(count ? `${count} readings from ${file.name}.` : "All of it is here already.");
    } catch (error) {
      notify(`${file.name} is not read in: ${(error as Error).message}`);
    }
  };
  if (kept.isError) {
    return (
      <p role="alert" className="mt-4 text-sm text-stop">
        The readings cannot be fetched: {kept.error.message}
      </p>
    );
  }
  return (
    <section className="mt-5" aria-label="Readings">
      <h2 className="flex flex-wrap items-baseline gap-x-4 text-lg">
        Readings
        <span className="flex flex-wrap items-baseline gap-x-4 font-normal text-sm">
          {readings.length ? (
            <>
              <a href={`/api/designs/${id}/readings.csv`} className="text-river underline">
                as CSV
              </a>
              <a href={`/api/designs/${id}/bench-book.json`} className="text-river underline">
                as JSON
              </a>
            </>
          ) : null}
          <label className="cursor-pointer text-river underline">
            Import JSON
            <input
              type="file"
              accept=".json,application/json"
              className="sr-only"
              aria-label="Bench book file"
              onChange={(event) => {
                void bringIn(event.target.files?.[0]);
                event.target.value = "";
              }}
            />
          </label>
        </span>
      </h2>
      {readings.length ? (
        <ul data-part="readings">
          {readings.map((one, n) => (
            <Kept
              key={one.id}
              kept={one}
              judged={judged.standing.status === "fresh" ? (judged.data?.[n] ?? null) : null}
              stamp={judged.stamp}
            />
          ))}
        </ul>
      ) : (
        <p className="text-soft text-sm">
          None yet. Begin with the volts at each plug: too many volts, or plus and minus reversed,
          are what destroys things.
        </p>
      )}
    </section>
  );
}

interface KeptProps {
  kept: KeptReading;
  judged: Judged | null;
  stamp: Stamp | null;
}

function Kept({ kept, judged, stamp }: KeptProps) {
  const id = useDesign((state) => state.id);
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const name = useName(kept.reading.subject);
  const refresh = () => queries.invalidateQueries({ queryKey: ["readings", id] });
  const remove = async () => {
    try {
      await api.removeReading(id, kept.id);
      await refresh();
      const back = () => void api.restoreReading(id, kept.id).then(refresh);
      notify(`Removed the reading of ${name}.`, { label: "Undo", act: back });
    } catch (error) {
      notify(`Not removed: ${(error as Error).message}`);
    }
  };
  const adopt = (one: NonNullable<Judged["adopt"]>[number]) => {
    if (!stamp || !apply(`${name}: ${one.name} as measured`, one.edits, stamp)) return;
    notify(`${name}: ${one.name} is ${one.after} now, as measured.`, { label: "Undo", act: undo });
  };
  return (
    <li className="border-line border-t py-2" data-reading-of={kept.reading.subject}>
      <p className="flex flex-wrap items-baseline gap-x-3 text-sm">
        <strong>{name}</strong>
        <span>
          {titleOf(kept.reading)}: {inOneLine(kept.reading)}
        </span>
        <span className="text-soft text-xs">
          {new Date(kept.taken_at).toLocaleString(undefined, {
            dateStyle: "medium",
            timeStyle: "short",
          })}
          {kept.reading.note ? ` · ${kept.reading.note}` : ""}
        </span>
        <Button
          look="quiet"
          className="ml-auto text-stop"
          onClick={() => void remove()}
          aria-label={`Remove the reading of ${name}`}
        >
          ×
        </Button>
      </p>
      {judged ? <JudgedLine judged={judged} /> : null}
      <Picture kept={kept} name={name} onDone={refresh} />
      {isLook(kept.reading) ? <ItWas kept={kept} look={kept.reading} onDone={refresh} /> : null}
      {judged?.adopt?.map((one) =>
        one.before === one.after ? null : (
          <p key={one.name} className="mt-1 flex flex-wrap items-center gap-x-3 text-sm">
            <span>
              {one.name}: {one.before} → <strong>{one.after}</strong>
            </span>
            <Button onClick={() => adopt(one)} data-part="adopt">
              Use measured
            </Button>
            <WhatItDoes edits={one.edits} label={`What using ${one.name} as measured does`} />
          </p>
        ),
      )}
    </li>
  );
}

interface PictureProps {
  kept: KeptReading;
  name: string;
  onDone: () => void;
}

/** The picture beside a reading, to be added, looked at or removed. */
function Picture({ kept, name, onDone }: PictureProps) {
  const id = useDesign((state) => state.id);
  const notify = useNotice((state) => state.notify);
  const [version, setVersion] = useState(0);
  const put = async (file: File | undefined) => {
    if (!file) return;
    try {
      await api.keepPicture(id, kept.id, file);
      setVersion((now) => now + 1);
      onDone();
    } catch (error) {
      notify(`${file.name} is not kept: ${(error as Error).message}`);
    }
  };
  const remove = async () => {
    try {
      await api.removePicture(id, kept.id);
      onDone();
    } catch (error) {
      notify(`Not removed: ${(error as Error).message}`);
    }
  };
  const source = `/api/designs/${id}/readings/${kept.id}/picture?${version}`;
  return (
    <p className="mt-1 flex items-end gap-3 text-xs">
      {kept.picture ? (
        <>
          <a href={source} target="_blank" rel="noreferrer">
            <img src={source} alt={`At the reading of ${name}`} className="h-20 rounded border" />
          </a>
          <button type="button" className="text-stop underline" onClick={() => void remove()}>
            Remove the picture
          </button>
        </>
      ) : (
        <label className="cursor-pointer text-river underline">
          Add a picture
          <input
            type="file"
            accept="image/png,image/jpeg"
            className="sr-only"
            aria-label={`Add a picture to the reading of ${name}`}
            onChange={(event) => void put(event.target.files?.[0])}
          />
        </label>
      )}
    </p>
  );
}

interface ItWasProps {
  kept: KeptReading;
  look: Look;
  onDone: () => void;
}

/** How long it ran in the end: noted beside what was said. */
function ItWas({ kept, look, onDone }: ItWasProps) {
  const id = useDesign((state) => state.id);
  const notify = useNotice((state) => state.notify);
  const note = async (was_h: number | null) => {
    try {
      await api.changeReading(id, kept.id, { ...look, was_h });
      onDone();
    } catch (error) {
      notify(`Not kept: ${(error as Error).message}`);
    }
  };
  return (
    <p className="mt-1 flex flex-wrap items-center gap-x-2 text-sm">
      It ran for
      <NumberField
        label="It ran for"
        as="hours"
        width="w-24"
        placeholder="not over yet"
        path="/readings/0/was_h"
        value={look.was_h ?? null}
        onChange={(value) => void note(value)}
        onClear={() => void note(null)}
      />
    </p>
  );
}

/** The name of a store, stage, outlet, link or load; its id, if it is there no more. */
function useName(subject: string): string {
  const design = useDesign((state) => state.document);
  if (!design) return subject;
  const outlets = design.stores.flatMap((store) =>
    store.kind === "station"
      ? (store.outlets ?? []).map((one) => ({ id: one.id, name: `${store.name}, ${one.name}` }))
      : [],
  );
  const things = [
    ...design.stores,
    ...design.stages,
    ...design.links,
    ...design.loads,
    ...outlets,
  ] as { id?: string; name?: string }[];
  return things.find((one) => one.id === subject)?.name ?? subject;
}
