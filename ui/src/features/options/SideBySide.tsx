import { useQueries, useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";
import { api } from "../../api/client";
import type { Design, Side, Variant } from "../../api/types";
import { patched, useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { Answered } from "../../editor/Answered";
import { hours, quantity } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { money } from "../../lib/own-units";
import { SEVERITIES } from "../../pictures/severities";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Scroll } from "../../ui/Scroll";
import { Failed, Loading } from "../../ui/States";
import { MiniDrawing } from "./MiniDrawing";

const MOST = 4;

interface Column {
  key: string;
  title: string;
  note: string;
  design: Design;
}

/** Up to four variants in columns: the design as it is, schools of the trade, other designs. */
export function SideBySide() {
  const design = useDesign((state) => state.document);
  const id = useDesign((state) => state.id);
  const [keys, setKeys] = useState<readonly string[]>([]);
  const variants = useAnswer("variants", api.variants);
  // Of an earlier version they would be edits to another design.
  const offered = variants.standing.status === "fresh" ? (variants.data ?? []) : [];
  const others = useQuery({
    queryKey: ["designs", "all"],
    queryFn: () => api.designs(),
    staleTime: 5_000,
  });
  const wanted = keys.filter((key) => key.startsWith("design:"));
  const opened = useQueries({
    queries: wanted.map((key) => ({
      queryKey: ["design", key.slice(7), "beside"],
      queryFn: () => api.design(key.slice(7)),
      staleTime: 5_000,
    })),
  });
  if (!design) return null;
  const documents = new Map(wanted.map((key, at) => [key, opened[at]?.data?.document]));
  const columns: Column[] = [
    { key: "now", title: "As it is now", note: "", design },
    ...keys.flatMap((key) => columnOf(key, design, offered, documents)),
  ];
  const toggle = (key: string) =>
    setKeys(
      keys.includes(key) ? keys.filter((one) => one !== key) : [...keys, key].slice(-(MOST - 1)),
    );
  const rest = (others.data ?? []).filter((one) => one.id !== id);
  return (
    <div>
      <Questions variants={variants.data ?? []} keys={keys} onToggle={toggle} />
      <div className="my-2 flex flex-wrap items-center gap-3 text-sm">
        <span className="text-soft">or another of your designs</span>
        <Choose
          label="Another design"
          value=""
          options={[["", "choose …"], ...rest.map((one) => [one.id, one.name] as const)]}
          onChange={(other) =>
            other && !keys.includes(`design:${other}`) && toggle(`design:${other}`)
          }
        />
        <DuplicateIt design={design} />
      </div>
      {variants.error ? (
        <Failed
          within
          title="The variants cannot be worked out"
          reason={variants.error.message}
          onRetry={variants.retry}
        />
      ) : null}
      <Columns columns={columns} waiting={keys.length + 1 !== columns.length} onDrop={toggle} />
    </div>
  );
}

function columnOf(
  key: string,
  design: Design,
  variants: readonly Variant[],
  documents: ReadonlyMap<string, Design | undefined>,
): Column[] {
  const other = documents.get(key);
  if (other) return [{ key, title: other.name, note: "another of your designs", design: other }];
  const variant = variants.find((one) => one.key === key);
  if (!variant) return [];
  const after = patched(design, variant.edits);
  return after ? [{ key, title: variant.title, note: variant.note, design: after }] : [];
}

interface QuestionsProps {
  variants: readonly Variant[];
  keys: readonly string[];
  onToggle: (key: string) => void;
}

/** Where practitioners disagree, each school's answer as a variant of this design. */
function Questions({ variants, keys, onToggle }: QuestionsProps) {
  const questions = [...new Set(variants.map((one) => one.question))];
  return (
    <div className="space-y-1.5 text-sm" data-part="questions">
      {questions.map((question) => (
        <div key={question} className="flex flex-wrap items-center gap-2">
          <span className="w-52 text-soft">{question}</span>
          {variants
            .filter((one) => one.question === question)
            .map((one) => (
              <button
                key={one.key}
                type="button"
                className="rounded-full border border-edge px-2.5 py-0.5 aria-pressed:border-river aria-pressed:bg-river-wash"
                aria-pressed={keys.includes(one.key)}
                title={one.note}
                onClick={() => onToggle(one.key)}
                data-variant={one.key}
              >
                {one.title}
              </button>
            ))}
        </div>
      ))}
    </div>
  );
}

/** A copy of the design under a name of its own, to be changed and compared. */
function DuplicateIt({ design }: { design: Design }) {
  const notify = useNotice((state) => state.notify);
  const others = useQuery({
    queryKey: ["designs", "all"],
    queryFn: () => api.designs(),
    staleTime: 5_000,
  });
  const [name, setName] = useState("");
  const called = name.trim() || `${design.name}, variant`.slice(0, 80);
  const duplicate = async () => {
    try {
      await api.create({ ...design, name: called });
      await others.refetch();
      setName("");
      notify(`“${called}” is kept as a design of its own.`);
    } catch (error) {
      notify(`Not kept: ${(error as Error).message}`);
    }
  };
  return (
    <span className="flex flex-wrap items-center gap-2">
      <span className="text-soft">or duplicate this one as</span>
      <input
        className="field w-56"
        aria-label="Name of the duplicate"
        value={name}
        maxLength={80}
        placeholder={called}
        onChange={(event) => setName(event.target.value)}
      />
      <Button onClick={() => void duplicate()}>Duplicate it</Button>
    </span>
  );
}

interface ColumnsProps {
  columns: readonly Column[];
  /** Whether some that were chosen are still worked out for the design as it is now. */
  waiting: boolean;
  onDrop: (key: string) => void;
}

function Columns({ columns, waiting, onDrop }: ColumnsProps) {
  const answer = useAnswer(
    "sides",
    (_, signal) =>
      api.sides(
        columns.map((one) => one.design),
        signal,
      ),
    { key: columns.map((one) => one.key), enabled: !waiting },
  );
  if (waiting || (answer.data && answer.data.length !== columns.length)) {
    return <Loading what="Running each of them" />;
  }
  return (
    <Answered
      answer={answer}
      loading="Running each of them"
      failed="The variants cannot be worked out"
    >
      {(sides) => <ColumnsTable columns={columns} sides={sides} onDrop={onDrop} />}
    </Answered>
  );
}

interface ColumnsTableProps {
  columns: readonly Column[];
  sides: readonly Side[];
  onDrop: (key: string) => void;
}

function ColumnsTable({ columns, sides: data, onDrop }: ColumnsTableProps) {
  const rows = useMemo(() => rowsOf(data), [data]);
  return (
    <Scroll label="Variants side by side">
      <table className="w-full min-w-180 table-fixed text-sm" data-part="sides">
        <thead>
          <tr className="align-top">
            <th className="w-32" aria-label="What is compared" />
            {columns.map((column) => (
              <th
                key={column.key}
                className="px-2 pb-1 text-left font-normal"
                data-side={column.key}
              >
                <strong className="block font-head">{column.title}</strong>
                <span className="block text-soft text-xs">{column.note}</span>
                <MiniDrawing design={column.design} />
                {column.key === "now" ? null : (
                  <span className="mt-1 flex gap-2">
                    <TakeIt column={column} />
                    <Button look="quiet" onClick={() => onDrop(column.key)}>
                      Remove
                    </Button>
                  </span>
                )}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {rows.map(([name, cells]) => (
            <tr key={name} className="border-line border-t align-top" data-compared={name}>
              <th scope="row" className="py-1 text-left font-normal text-soft">
                {name}
              </th>
              {cells.map((cell, at) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: columns stand in their order
                <td key={at} className={`px-2 py-1 ${differs(cells, at) ? "font-semibold" : ""}`}>
                  {differs(cells, at) ? <span className="text-river">≠ </span> : null}
                  {cell}
                </td>
              ))}
            </tr>
          ))}
          <tr className="border-line border-t align-top">
            <th scope="row" className="py-1 text-left font-normal text-soft">
              Findings
            </th>
            {data.map((side, at) => (
              <td key={columns[at]?.key} className="px-2 py-1 text-xs">
                <FindingsOf side={side} first={data[0]} />
              </td>
            ))}
          </tr>
        </tbody>
      </table>
    </Scroll>
  );
}

const differs = (cells: readonly string[], at: number) => at > 0 && cells[at] !== cells[0];

/** What is compared, as it is written in each column. */
function rowsOf(sides: readonly Side[]): [string, string[]][] {
  const row = (name: string, of: (side: Side) => string): [string, string[]] => [
    name,
    sides.map(of),
  ];
  return [
    row("Lasts", (x) => `${x.lasts}${x.meets_goal ? ", meets the goal" : ""}`),
    row("Likely", (x) =>
      x.p10 === null
        ? "longer than simulated"
        : `${hours(x.p10)} to ${x.p90 === null ? "more" : hours(x.p90)}`,
    ),
    row("Stops first", (x) => x.first),
    row("Refill", (x) => x.refill),
    row("Parts", (x) => x.parts.join("; ")),
    row(
      "Price",
      (x) => `${money(x.price)}${x.unpriced.length ? ` without ${x.unpriced.join(", ")}` : ""}`,
    ),
    row("Mass", (x) => quantity(x.mass_kg, "kg")),
    row("A day uses", (x) => quantity(x.day_wh, "Wh")),
    row(
      "Lost of it",
      (x) =>
        `${quantity(x.lost_wh, "Wh")} in conversion and cables, ${quantity(x.idle_wh, "Wh")} idle`,
    ),
    row(
      "Highest current",
      (x) => `${quantity(x.design_a, "A")}, starting ${quantity(x.start_a, "A")}`,
    ),
    row("Cables, fuses", (x) => x.cables.map((one) => `${one.name} ${one.says}`).join("; ")),
  ];
}

function FindingsOf({ side, first }: { side: Side; first: Side | undefined }) {
  const known = new Set(first?.findings.map((one) => one.title));
  if (!side.findings.length) return <span className="text-moss">✓ nothing</span>;
  return (
    <ul className="space-y-0.5">
      {side.findings.map((one) => (
        <li key={one.title} className={known.has(one.title) ? "text-soft" : ""}>
          <span className={SEVERITIES[one.severity].colour.split(" ")[0]}>
            {SEVERITIES[one.severity].shape} {SEVERITIES[one.severity].word}
          </span>{" "}
          {one.title}
        </li>
      ))}
    </ul>
  );
}

function TakeIt({ column }: { column: Column }) {
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const take = () => {
    change(`take ${column.title}`, (d) => ({ ...column.design, name: d.name, notes: d.notes }));
    notify(`The design is now: ${column.title}.`, { label: "Undo", act: undo });
  };
  return (
    <Button onClick={take} aria-label={`Use: ${column.title}`}>
      Use it
    </Button>
  );
}
