import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api } from "../../api/client";
import type { LogLayout, LogLine, LookedAt } from "../../api/types";
import { useDesign } from "../../design/store";
import { number } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import { Scroll } from "../../ui/Scroll";

/** Of a file, so much is looked at before it is read in. [bytes] */
const HEAD = 60_000;

const ROLES = [
  ["skip", "left out"],
  ["time", "time"],
  ["volts", "volts"],
  ["amps", "amps"],
  ["watts", "watts"],
  ["charge", "charge"],
  ["temperature", "temperature"],
] as const;

const TIMES = [
  ["date and time", "date and time, year first"],
  ["day first", "date and time, day first"],
  ["month first", "date and time, month first"],
  ["clock", "time of day"],
  ["seconds", "seconds"],
  ["minutes", "minutes"],
  ["hours", "hours"],
  ["milliseconds", "milliseconds"],
] as const;

interface LogImportProps {
  /** What a log may be of: batteries and loads. */
  parts: readonly (readonly [string, string])[];
}

/** A logger's file: how it seems to be laid out, to be confirmed, then read in whole or not. */
export function LogImport({ parts }: LogImportProps) {
  const input = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<File | null>(null);
  const [looked, setLooked] = useState<LookedAt | null>(null);
  const [failed, setFailed] = useState("");
  const choose = async (chosen: File | undefined) => {
    if (!chosen) return;
    setFailed("");
    try {
      setLooked(await api.lookAtLog(await chosen.slice(0, HEAD).text()));
      setFile(chosen);
    } catch (error) {
      setFailed(`${chosen.name} cannot be read: ${(error as Error).message}`);
    }
  };
  const done = () => {
    setFile(null);
    setLooked(null);
    if (input.current) input.current.value = "";
  };
  return (
    <div>
      <label className="inline-flex min-h-8 cursor-pointer items-center rounded border border-edge bg-card px-2.5 text-sm hover:bg-river-wash">
        Read a log in (CSV)
        <input
          ref={input}
          type="file"
          accept=".csv,.txt,.tsv,text/csv,text/plain"
          className="sr-only"
          aria-label="Log file"
          onChange={(event) => void choose(event.target.files?.[0])}
        />
      </label>
      {failed ? (
        <p role="alert" className="text-sm text-stop">
          {failed}
        </p>
      ) : null}
      {file && looked ? (
        <Confirm key={file.name} file={file} looked={looked} parts={parts} onDone={done} />
      ) : null}
    </div>
  );
}

interface ConfirmProps extends LogImportProps {
  file: File;
  looked: LookedAt;
  onDone: () => void;
}

function Confirm({ file, looked, parts, onDone }: ConfirmProps) {
  const id = useDesign((state) => state.id);
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const [layout, setLayout] = useState<LogLayout>(looked.layout);
  const [name, setName] = useState(file.name.replace(/\.\w+$/, "").slice(0, 120) || "Log");
  const [subject, setSubject] = useState(parts[0]?.[0] ?? "");
  const [line, setLine] = useState<LogLine | null>(null);
  const [failed, setFailed] = useState("");
  const reading = useRef<AbortController | null>(null);
  const busy = line?.step === "rows";
  const role = (place: number, to: LogLayout["columns"][number]["role"]) =>
    setLayout((now) => ({
      ...now,
      columns: now.columns.map((one, n) => {
        if (n === place) return { ...one, role: to };
        return to !== "skip" && one.role === to ? { ...one, role: "skip" as const } : one;
      }),
    }));
  const readIn = async (skip_bad: boolean) => {
    reading.current = new AbortController();
    setFailed("");
    setLine({ step: "rows", rows: 0, bad: 0, problems: [], log: null } as LogLine);
    try {
      await api.readLogIn(
        id,
        { name, subject, layout, skip_bad },
        file,
        (found) => {
          setLine(found);
          if (found.step !== "kept") return;
          void queries.invalidateQueries({ queryKey: ["logs", id] });
          notify(`${name}: ${number(found.rows ?? 0, 6)} rows read in.`);
          onDone();
        },
        reading.current.signal,
      );
    } catch (error) {
      const stopped = reading.current?.signal.aborted;
      setLine(null);
      setFailed(stopped ? "Stopped. Nothing of it was kept." : (error as Error).message);
    }
  };
  return (
    <div className="mt-2 rounded-lg border border-edge bg-card p-3 text-sm" data-part="log-layout">
      <Row name="Called">
        <input
          className="field w-56"
          aria-label="Log name"
          value={name}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
        />
      </Row>
      <Row name="Of">
        <Choose label="Log of" value={subject} options={parts} onChange={setSubject} />
      </Row>
      <Row name="Times are">
        <Choose
          label="Log: times"
          value={layout.time ?? "seconds"}
          options={TIMES}
          onChange={(time) => setLayout((now) => ({ ...now, time }))}
        />
      </Row>
      {layout.columns.some((one) => one.role === "amps") ? (
        <Row name="Amps out of the battery are">
          <Choose
            label="Log: amps"
            value={layout.discharge ?? "positive"}
            options={[
              ["positive", "positive"],
              ["negative", "negative"],
            ]}
            onChange={(discharge) => setLayout((now) => ({ ...now, discharge }))}
          />
        </Row>
      ) : null}
      <Row name="Decimal sign">
        <Choose
          label="Log: decimal sign"
          value={layout.decimal ?? "."}
          options={[
            [".", "point"],
            [",", "comma"],
          ]}
          onChange={(decimal) => setLayout((now) => ({ ...now, decimal }))}
        />
      </Row>
      {looked.doubts.map((doubt) => (
        <p key={doubt} className="text-watch">
          <span aria-hidden="true">◆ </span>
          {doubt}
        </p>
      ))}
      <Scroll label="First rows of the file">
        <table className="mt-1 text-left">
          <thead>
            <tr>
              {layout.columns.map((column, place) => (
                <th key={`${column.name} ${String(place)}`} className="px-2 font-normal">
                  <span className="block text-soft text-xs">{column.name}</span>
                  <Choose
                    label={`Column ${column.name}`}
                    value={column.role ?? "skip"}
                    options={ROLES}
                    onChange={(to) => role(place, to)}
                  />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {looked.rows.map((row) => (
              <tr key={row.join()}>
                {row.map((cell, n) => (
                  // biome-ignore lint/suspicious/noArrayIndexKey: cells keep their places
                  <td key={n} className="px-2 tabular-nums">
                    {cell}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      {line?.step === "refused" ? (
        <div role="alert" className="mt-2 text-stop" data-part="log-refused">
          <p>Nothing was kept: {number(line.bad ?? 0, 6)} of its rows cannot be read.</p>
          <ul className="list-disc pl-5">
            {(line.problems ?? []).map((one) => (
              <li key={`${one.line} ${one.message}`}>
                Line {one.line}
                {one.column ? `, ${one.column}` : ""}: {one.message}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {failed ? (
        <p role="alert" className="mt-1 text-stop">
          {failed}
        </p>
      ) : null}
      <p className="mt-2 flex flex-wrap items-center gap-2" role="status">
        {busy ? (
          <>
            Reading: {number(line.rows ?? 0, 7)} rows
            <Button onClick={() => reading.current?.abort()}>Stop</Button>
          </>
        ) : (
          <>
            <Button look="main" onClick={() => void readIn(false)} disabled={!subject}>
              Read it in
            </Button>
            {line?.step === "refused" ? (
              <Button onClick={() => void readIn(true)}>Leave these rows out</Button>
            ) : null}
            <Button onClick={onDone}>Cancel</Button>
          </>
        )}
      </p>
    </div>
  );
}
