import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../../api/client";
import type { Design, Fit, KeptLog } from "../../api/types";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { hours, number, quantity } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";
import { Live } from "./Live";
import { LogImport } from "./LogImport";
import { LogPicture } from "./LogPicture";
import { WhatItDoes } from "./WhatItDoes";

/** What a log may be of: batteries, loads, inverters and converters. */
const partsOf = (design: Design) =>
  [
    ...design.stores.filter((one) => one.kind === "bank"),
    ...design.loads,
    ...design.stages.filter((one) => one.kind !== "feed"),
  ].map((one) => [one.id, one.name] as const);

/** Logs of the design: read in, drawn, and what they tell of their parts. */
export function Logs() {
  const id = useDesign((state) => state.id);
  const design = useDesign((state) => state.document);
  const kept = useQuery({ queryKey: ["logs", id], queryFn: () => api.logs(id) });
  if (!design) return null;
  const parts = partsOf(design) as (readonly [string, string])[];
  return (
    <section aria-label="Logs" data-part="logs">
      <h2 className="text-lg">Logs</h2>
      {kept.isError ? (
        <p role="alert" className="text-sm text-stop">
          The logs cannot be fetched: {kept.error.message}
        </p>
      ) : null}
      {kept.data?.length ? (
        <ul>
          {kept.data.map((log) => (
            <OneLog
              key={log.id}
              log={log}
              name={parts.find(([part]) => part === log.subject)?.[1] ?? log.subject}
            />
          ))}
        </ul>
      ) : (
        <p className="text-soft text-sm">
          None yet. A logger's volts and amps of a battery, from full until it cuts out, tell what
          it holds; a night of watts at a plug meter tells a fridge's duty.
        </p>
      )}
      <div className="mt-2">
        <LogImport parts={parts} />
        <Live parts={parts} />
      </div>
    </section>
  );
}

function OneLog({ log, name }: { log: KeptLog; name: string }) {
  const [open, setOpen] = useState(false);
  const id = useDesign((state) => state.id);
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const refresh = () => queries.invalidateQueries({ queryKey: ["logs", id] });
  const remove = async () => {
    try {
      await api.removeLog(id, log.id);
      await refresh();
      const back = () => void api.restoreLog(id, log.id).then(refresh);
      notify(`Removed the log ${log.name}.`, { label: "Undo", act: back });
    } catch (error) {
      notify(`Not removed: ${(error as Error).message}`);
    }
  };
  return (
    <li className="border-line border-t py-2" data-log={log.id}>
      <p className="flex flex-wrap items-baseline gap-x-3 text-sm">
        <strong>{log.name}</strong>
        <span>of {name}</span>
        <span className="text-soft text-xs">
          {hours(log.ends_s / 3600)}, {number(log.rows, 7)} rows
          {log.begins_at
            ? ` · from ${new Date(log.begins_at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" })}`
            : ""}
        </span>
        <Button look="quiet" aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? "Close" : "Open"}
        </Button>
        <a
          href={`/api/designs/${id}/logs/${log.id}/rows.csv`}
          className="text-river text-sm underline"
        >
          as CSV
        </a>
        <Button
          look="quiet"
          className="ml-auto text-stop"
          onClick={() => void remove()}
          aria-label={`Remove the log ${log.name}`}
        >
          ×
        </Button>
      </p>
      {open ? (
        <>
          <LogPicture log={log} />
          <WhatItTells log={log} name={name} />
        </>
      ) : null}
    </li>
  );
}

/** Figures that the log tells, with their spread, beside those of the plan. */
function WhatItTells({ log, name }: { log: KeptLog; name: string }) {
  const id = useDesign((state) => state.id);
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const answer = useAnswer("fit-log", (design, signal) => api.fitLog(id, log.id, design, signal), {
    key: [log.id],
  });
  if (answer.error) {
    return (
      <p role="alert" className="text-sm text-stop">
        {answer.error.message}
      </p>
    );
  }
  if (!answer.data) return <p className="text-soft text-sm">Working it out …</p>;
  const fresh = answer.standing.status === "fresh";
  const keepTest = async () => {
    try {
      await api.addReading(id, await api.logCapacity(id, log.id));
      await queries.invalidateQueries({ queryKey: ["readings", id] });
      notify("Kept among the readings, as a capacity test.");
    } catch (error) {
      notify(`Not kept: ${(error as Error).message}`);
    }
  };
  const use = (one: Fit["figures"][number]) => {
    if (!one.adopt || !answer.stamp) return;
    if (!apply(`${name}: ${one.adopt.name} by a log`, one.adopt.edits, answer.stamp)) return;
    const said = `${name}: ${one.adopt.name} is ${one.adopt.after} now, as measured.`;
    notify(said, { label: "Undo", act: undo });
  };
  return (
    <div className="mt-2 text-sm" data-part="fit">
      <h3 className="font-semibold">
        What it tells of {name}
        {answer.data.figures.some((one) => one.name === "Charge" && one.unit === "Ah") ? (
          <Button look="quiet" className="ml-3" onClick={() => void keepTest()}>
            Keep as a capacity test
          </Button>
        ) : null}
      </h3>
      {answer.data.remarks.map((remark) => (
        <p key={remark} className="text-watch">
          <span aria-hidden="true">◆ </span>
          {remark}
        </p>
      ))}
      <ul>
        {answer.data.figures.map((one) => (
          <li
            key={one.name}
            className="flex flex-wrap items-baseline gap-x-4 border-line border-t py-1"
            data-figure-told={one.told}
          >
            <span className="min-w-36">{one.name}</span>
            {one.told ? (
              <>
                <strong>{quantity(one.value, one.unit)}</strong>
                <span className="text-soft text-xs">
                  {quantity(one.low, one.unit)} to {quantity(one.high, one.unit)}, in 95 of 100
                </span>
              </>
            ) : (
              <span className="text-soft">not told. {one.why}</span>
            )}
            {one.planned !== null ? (
              <span className="text-soft text-xs">the plan: {quantity(one.planned, one.unit)}</span>
            ) : null}
            {one.adopt ? (
              <>
                <Button onClick={() => use(one)} disabled={!fresh} data-part="adopt">
                  Use measured
                </Button>
                <WhatItDoes
                  edits={one.adopt.edits}
                  label={`What using ${one.adopt.name} as measured does`}
                />
              </>
            ) : null}
          </li>
        ))}
      </ul>
    </div>
  );
}
