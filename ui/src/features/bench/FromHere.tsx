import { useQueryClient } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../../api/client";
import type { BenchReading, Design, Now, Outlook } from "../../api/types";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { NumberField } from "../../editor/NumberField";
import { clock, hours } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import { nearestQuarter } from "./fields";

type By = "percent" | "used_ah" | "volts";

const BY: readonly (readonly [By, string])[] = [
  ["percent", "% on its meter or display"],
  ["used_ah", "Ah used since full"],
  ["volts", "V at rest"],
];

/** What is left by what the meter or the display says now, with what is switched on. */
export function FromHere() {
  const design = useDesign((state) => state.document);
  const stores = (design?.stores ?? []).filter((x) => x.kind === "bank" || x.kind === "station");
  const [store, setStore] = useState("");
  const [by, setBy] = useState<By>("percent");
  const [value, setValue] = useState<number | null>(null);
  const [rested, setRested] = useState<number | null>(null);
  const [at, setAt] = useState(() => nearestQuarter(new Date()));
  const [on, setOn] = useState<readonly string[] | null>(null);
  const chosen = stores.find((x) => x.id === store) ?? stores[0];
  const now: Now | null =
    chosen && value !== null
      ? {
          store: chosen.id,
          clock_h: at,
          [by]: value,
          rested_h: by === "volts" ? (rested ?? 0) : 0,
          on: on ? [...on] : null,
        }
      : null;
  const answer = useAnswer(
    "outlook",
    (d, signal) => (now ? api.outlook(d, now, signal) : Promise.reject(new Error("no figure"))),
    { key: [JSON.stringify(now)], enabled: now !== null },
  );
  if (!design || !chosen) return null;
  const found = now && answer.standing.status === "fresh" ? answer.data : null;
  return (
    <details className="rounded-lg border border-edge bg-card px-3 py-2" data-part="from-here">
      <summary className="text-lg">From here on</summary>
      <p className="text-soft text-sm">
        Type what its meter or display says now: what is left, and whether the night is survived.
      </p>
      <div className="mt-2">
        {stores.length > 1 ? (
          <Row name="Of">
            <Choose
              label="Look: store"
              value={chosen.id}
              options={stores.map((x) => [x.id, x.name] as const)}
              onChange={setStore}
            />
          </Row>
        ) : null}
        <Row name={`${chosen.name} shows`}>
          <NumberField
            label="Look: figure"
            width="w-20"
            applies="typed"
            path="/now"
            value={value}
            onChange={setValue}
            onClear={() => setValue(null)}
          />
          <Choose
            label="Look: unit"
            value={by}
            options={chosen.kind === "bank" ? BY : BY.slice(0, 1)}
            onChange={setBy}
          />
        </Row>
        {by === "volts" ? (
          <Row name="Rested for" help="nothing connected">
            <NumberField
              label="Look: rested for"
              as="hours"
              width="w-20"
              applies="left"
              path="/now/rested_h"
              value={rested}
              onChange={setRested}
              onClear={() => setRested(null)}
            />
          </Row>
        ) : null}
        <Row name="It is" help="time of day">
          <input
            type="time"
            className="field"
            aria-label="Look: time of day"
            value={clock(at)}
            onChange={(event) => {
              const [h = "0", m = "0"] = event.target.value.split(":");
              if (event.target.value) setAt(Number(h) + Number(m) / 60);
            }}
          />
        </Row>
        <SwitchedOn design={design} on={on} onChange={setOn} />
      </div>
      {answer.error && now ? (
        <p role="alert" className="text-sm text-stop">
          {answer.error.message}
        </p>
      ) : null}
      {found && now ? <Said found={found} now={now} /> : null}
    </details>
  );
}

interface SwitchedOnProps {
  design: Design;
  on: readonly string[] | null;
  onChange: (on: readonly string[] | null) => void;
}

/** As the plan has it, or just what is on now. */
function SwitchedOn({ design, on, onChange }: SwitchedOnProps) {
  return (
    <fieldset className="my-1 text-sm">
      <legend className="sr-only">What runs from now on</legend>
      <span className="flex flex-wrap gap-x-4">
        <label className="flex min-h-8 items-center gap-1.5">
          <input type="radio" name="runs" checked={on === null} onChange={() => onChange(null)} />
          loads run as planned
        </label>
        <label className="flex min-h-8 items-center gap-1.5">
          <input type="radio" name="runs" checked={on !== null} onChange={() => onChange([])} />
          only these, from now on
        </label>
      </span>
      {on ? (
        <span className="flex flex-wrap gap-x-4 pl-5">
          {design.loads.map((load) => (
            <label key={load.id} className="flex min-h-8 items-center gap-1.5">
              <input
                type="checkbox"
                checked={on.includes(load.id)}
                onChange={(event) =>
                  onChange(
                    event.target.checked ? [...on, load.id] : on.filter((x) => x !== load.id),
                  )
                }
              />
              {load.name}
            </label>
          ))}
        </span>
      ) : null}
    </fieldset>
  );
}

/** The answer in words, and a button that keeps it until it can be compared. */
function Said({ found, now }: { found: Outlook; now: Now }) {
  const id = useDesign((state) => state.id);
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const keep = async () => {
    const look = {
      kind: "look",
      subject: now.store,
      charge: found.charge,
      clock_h: now.clock_h,
      on: now.on ?? null,
      said_h: found.hours,
      low_h: found.p10,
      high_h: found.p90,
    } as BenchReading;
    try {
      await api.addReading(id, look);
      await queries.invalidateQueries({ queryKey: ["readings", id] });
      notify("Kept among the readings: note there how long it ran.");
    } catch (error) {
      notify(`Not kept: ${(error as Error).message}`);
    }
  };
  return (
    <div className="mt-1 text-sm" data-part="outlook">
      <p className="text-lg">
        <strong>{found.says}</strong>
      </p>
      {found.p10 !== null && found.hours ? (
        <p className="text-soft">
          Likely {hours(found.p10)} to {found.p90 === null ? "longer" : hours(found.p90)}; from{" "}
          {found.source}.
        </p>
      ) : null}
      {found.first ? <p>{found.first}</p> : null}
      <p className={found.lasts_the_night ? "" : "text-fix"}>
        <span aria-hidden="true">{found.lasts_the_night ? "✓ " : "▲ "}</span>
        {found.night}
      </p>
      <p>{found.full}</p>
      <p className="mt-1">
        <Button onClick={() => void keep()}>Keep this look</Button>
      </p>
    </div>
  );
}
