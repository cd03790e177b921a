import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { api } from "../../api/client";
import type { DrawnRow, InstrumentSetting, LogLine, Quantity } from "../../api/types";
import { useDesign } from "../../design/store";
import { NumberField } from "../../editor/NumberField";
import { hours, number, quantity } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import { asCsv, keepRecorded, RECORDED_LAYOUT, type Recorded, recordedBefore } from "./recording";

const UNITS: Record<Quantity, readonly [string, string]> = {
  volts: ["Volts", "V"],
  amps: ["Amps", "A"],
  watts: ["Watts", "W"],
  ah: ["Charge drawn", "Ah"],
  wh: ["Energy", "Wh"],
  charge: ["Charge left", "share"],
};
const MAX_EVERY_S = 3600;

interface LiveProps {
  parts: readonly (readonly [string, string])[];
}

/** What a listed instrument reads now, again and again, and a recording of it. */
export function Live({ parts }: LiveProps) {
  const listed = useQuery({ queryKey: ["instruments"], queryFn: api.instruments });
  const [open, setOpen] = useState(false);
  return (
    <details
      className="mt-2 text-sm"
      data-part="live"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="text-river">Read an instrument</summary>
      {listed.isError ? (
        <p role="alert" className="text-stop">
          {listed.error.message}
        </p>
      ) : null}
      {listed.data && !listed.data.length ? (
        <p className="text-soft">
          None is listed. Only instruments in the settings file instruments.json are ever opened;
          docs/formats.md says how. A simulated one: bin/gravel-jar instrument shunt --design FILE.
        </p>
      ) : null}
      {open && listed.data?.length ? <Reading listed={listed.data} parts={parts} /> : null}
    </details>
  );
}

interface ReadingProps extends LiveProps {
  listed: readonly InstrumentSetting[];
}

function Reading({ listed, parts }: ReadingProps) {
  const [name, setName] = useState(listed[0]?.name ?? "");
  const [every, setEvery] = useState(2);
  const id = useDesign((state) => state.id);
  // A closed tab or a reload loses nothing of it.
  const [rows, setRows] = useState<readonly Recorded[]>(() => recordedBefore(id));
  useEffect(() => keepRecorded(id, rows), [id, rows]);
  const [recording, setRecording] = useState(false);
  const began = useRef(0);
  const one = listed.find((x) => x.name === name) ?? listed[0];
  const now = useQuery({
    queryKey: ["instrument", one?.name],
    queryFn: ({ signal }) =>
      api.readInstrument(one?.name ?? "", [...(one?.measures ?? [])], signal),
    enabled: one !== undefined,
    refetchInterval: every * 1000,
    refetchIntervalInBackground: true,
    retry: false,
    gcTime: 0,
  });
  const { dataUpdatedAt } = now;
  const values = now.data?.values;
  useEffect(() => {
    if (!recording || !values || !dataUpdatedAt) return;
    // By a clock that never jumps.
    const at_s = (performance.now() - began.current) / 1000;
    setRows((before) => [...before, { at_s, values }]);
  }, [recording, values, dataUpdatedAt]);
  const begin = () => {
    began.current = performance.now();
    setRows([]);
    setRecording(true);
  };
  if (!one) return null;
  return (
    <div className="mt-1 rounded-lg border border-edge bg-card p-3">
      <Row name="Instrument">
        <Choose
          label="Instrument"
          value={one.name}
          options={listed.map((x) => [x.name, x.name] as const)}
          onChange={setName}
        />
        every
        <NumberField
          label="Read every"
          unit="s"
          width="w-14"
          path="/every"
          value={every}
          onChange={(value) => setEvery(Math.min(Math.max(value, 0.5), MAX_EVERY_S))}
        />
      </Row>
      <p className="flex flex-wrap gap-x-6 py-1 text-xl tabular-nums" data-part="live-values">
        {one.measures.map((measure) => {
          const value = values?.[measure];
          const [word, unit] = UNITS[measure];
          return (
            <span key={measure}>
              <span className="block text-soft text-xs">{word}</span>
              {value === null ? "overload" : value === undefined ? "–" : quantity(value, unit, 4)}
            </span>
          );
        })}
      </p>
      {now.isError ? (
        <p role="alert" className="text-stop">
          {now.error.message} It is asked again.
          {rows.length ? ` The ${rows.length} rows so far are kept.` : ""}
        </p>
      ) : null}
      <p className="mt-1 flex flex-wrap items-center gap-2" role="status">
        {recording ? (
          <>
            Recording: {number(rows.length, 6)} rows, {hours((rows.at(-1)?.at_s ?? 0) / 3600)}
            <Button look="main" onClick={() => setRecording(false)}>
              Stop recording
            </Button>
          </>
        ) : rows.length ? null : (
          <Button onClick={begin}>Record</Button>
        )}
      </p>
      {/* Kept or discarded first: a new recording takes none away. */}
      {!recording && rows.length ? (
        <Keep rows={rows} name={one.name} parts={parts} onDone={() => setRows([])} />
      ) : null}
    </div>
  );
}

interface KeepProps extends LiveProps {
  rows: readonly Recorded[];
  name: string;
  onDone: () => void;
}

/** What was recorded, kept as a log or as a capacity test. */
function Keep({ rows, name, parts, onDone }: KeepProps) {
  const id = useDesign((state) => state.id);
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const [subject, setSubject] = useState(parts[0]?.[0] ?? "");
  const asLog = async () => {
    try {
      let last: LogLine | null = null;
      await api.readLogIn(
        id,
        { name: `${name}, recorded`, subject, layout: RECORDED_LAYOUT, skip_bad: false },
        new Blob([asCsv(rows)], { type: "text/csv" }),
        (line) => {
          last = line;
        },
        new AbortController().signal,
      );
      if ((last as LogLine | null)?.step !== "kept") throw new Error("it has no rows");
      await queries.invalidateQueries({ queryKey: ["logs", id] });
      notify(`${rows.length} rows are kept as a log.`);
      onDone();
    } catch (error) {
      notify(`Not kept: ${(error as Error).message}`);
    }
  };
  const asTest = async () => {
    try {
      const tested = rows.flatMap(({ at_s, values }) =>
        values.volts == null || values.amps == null
          ? []
          : [
              {
                at_s,
                volts: values.volts,
                amps: values.amps,
                ah: values.ah ?? null,
                wh: values.wh ?? null,
              } as DrawnRow,
            ],
      );
      const found = await api.recordedCapacity(subject, tested);
      await api.addReading(id, { ...found, instrument: name });
      await queries.invalidateQueries({ queryKey: ["readings", id] });
      notify("Kept among the readings, as a capacity test.");
      onDone();
    } catch (error) {
      notify(`Not kept: ${(error as Error).message}`);
    }
  };
  return (
    <p className="mt-1 flex flex-wrap items-center gap-2">
      {rows.length} rows of
      <Choose label="Recorded of" value={subject} options={parts} onChange={setSubject} />
      <Button look="main" onClick={() => void asLog()}>
        Keep as a log
      </Button>
      <Button onClick={() => void asTest()}>Keep as a capacity test</Button>
      <Button look="quiet" onClick={onDone}>
        Discard
      </Button>
    </p>
  );
}
