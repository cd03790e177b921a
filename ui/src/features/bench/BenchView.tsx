import { useQuery } from "@tanstack/react-query";
import { useRef, useState } from "react";
import { api } from "../../api/client";
import type { Check } from "../../api/types";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { readAddress } from "../../lib/address";
import { BandCauses } from "../../verdict/BandCauses";
import { VerdictStrip } from "../../verdict/VerdictStrip";
import { FromHere } from "./FromHere";
import { LabelAndMeasured } from "./LabelAndMeasured";
import { Logs } from "./Logs";
import { ReadingForm } from "./ReadingForm";
import { ReadingList } from "./ReadingList";

const WHEN: Record<Check["when"], string> = {
  before: "Before the first plug-in",
  "at work": "While it works",
  "now and then": "Now and then",
};

/** The bench book: what to measure on this design, in the order of the bench, and all readings. */
export default function BenchView() {
  const id = useDesign((state) => state.id);
  const answer = useAnswer("checklist", (design, signal) => api.checklist(design, signal));
  const kept = useQuery({ queryKey: ["readings", id], queryFn: () => api.readings(id) });
  const [chosen, setChosen] = useState(() => readAddress("measure") ?? "");
  const form = useRef<HTMLDivElement>(null);
  const checks = answer.data ?? [];
  const done = new Set(kept.data?.map(({ reading }) => keyOf(reading.kind ?? "", reading.subject)));
  const open = checks.find((one) => !done.has(keyOf(one.kind, one.subject))) ?? checks[0];
  const check = checks.find((one) => keyOf(one.kind, one.subject) === chosen) ?? open;
  const measure = (one: Check) => {
    setChosen(keyOf(one.kind, one.subject));
    form.current?.scrollIntoView({ block: "nearest" });
    requestAnimationFrame(() =>
      form.current?.querySelector<HTMLElement>("input, select")?.focus({ preventScroll: true }),
    );
  };
  // All at once: a form that came in later would push down what a person is about to click.
  if (!answer.data && !answer.error) return <main className="px-4 py-2" aria-busy="true" />;
  return (
    <>
      <VerdictStrip />
      <main className="min-w-0 px-4 py-2">
        <h1 className="text-lg">Bench book</h1>
        <details className="max-w-200 text-sm" data-part="meter-safety">
          <summary className="text-watch">Before you take the meter in hand</summary>
          <ul className="list-disc pl-5">
            <li>
              Lead in the volts jack for volts. In the amps jack the meter is a short circuit.
            </li>
            <li>
              Amps of a battery with a DC clamp or a shunt, not through the meter's 10 A jack.
            </li>
            <li>Mains only at a socket, with a meter and leads made for it (CAT II or higher).</li>
            <li>
              Rings off. One hand where it can be. A tool across two posts is a short circuit.
            </li>
            <li>Anything fixed or behind a cover is for an electrician.</li>
          </ul>
        </details>
        {answer.error ? (
          <p role="alert" className="mt-2 text-sm text-stop">
            {answer.error.message}
          </p>
        ) : null}
        <div className="mt-2 grid grid-cols-1 gap-x-8 gap-y-4 lg:grid-cols-[minmax(18rem,24rem)_minmax(0,1fr)] lg:grid-rows-[auto_1fr]">
          <div ref={form} className="min-w-0 scroll-mt-36 lg:col-start-2">
            {check ? (
              <ReadingForm
                key={keyOf(check.kind, check.subject)}
                check={check}
                onKept={() => setChosen("")}
              />
            ) : null}
          </div>
          <nav
            aria-label="What to measure"
            data-part="checklist"
            className="lg:col-start-1 lg:row-span-2 lg:row-start-1"
          >
            {(Object.keys(WHEN) as Check["when"][]).map((when) => {
              const mine = checks.filter((one) => one.when === when);
              if (!mine.length) return null;
              const count = mine.filter((one) => done.has(keyOf(one.kind, one.subject))).length;
              return (
                <section key={when} className="mb-3">
                  <h2 className="text-base">
                    {WHEN[when]}{" "}
                    <span className="font-normal text-soft text-xs">
                      {count} of {mine.length} measured
                    </span>
                  </h2>
                  <ol>
                    {mine.map((one) => (
                      <Entry
                        key={keyOf(one.kind, one.subject)}
                        check={one}
                        done={done.has(keyOf(one.kind, one.subject))}
                        chosen={one === check}
                        onChoose={() => measure(one)}
                      />
                    ))}
                  </ol>
                </section>
              );
            })}
          </nav>
          <div className="min-w-0 space-y-4 lg:col-start-2">
            <FromHere />
            <ReadingList />
            <LabelAndMeasured />
            <Logs />
            <BandCauses
              onMeasure={(kind, subject) => {
                const one = checks.find((x) => x.kind === kind && x.subject === subject);
                if (one) measure(one);
              }}
            />
          </div>
        </div>
      </main>
    </>
  );
}

const keyOf = (kind: string, subject: string) => `${kind} ${subject}`;

interface EntryProps {
  check: Check;
  done: boolean;
  chosen: boolean;
  onChoose: () => void;
}

function Entry({ check, done, chosen, onChoose }: EntryProps) {
  return (
    <li className="border-line border-t">
      <button
        type="button"
        className={`flex min-h-11 w-full items-center gap-2.5 rounded px-1.5 py-1 text-left text-sm hover:bg-river-wash ${chosen ? "bg-river-wash" : ""}`}
        aria-current={chosen}
        onClick={onChoose}
        data-check={`${check.kind} ${check.subject}`}
      >
        <span
          className={`grid size-5 shrink-0 place-items-center rounded-full border text-2xs ${done ? "border-moss bg-moss text-paper" : "border-edge"}`}
        >
          <span aria-hidden="true">{done ? "✓" : ""}</span>
          <span className="sr-only">{done ? "measured" : "not measured yet"}</span>
        </span>
        <span className="min-w-0">
          <span className="block leading-tight">{check.name}</span>
          <span className="block text-soft text-xs">expect {check.expected}</span>
        </span>
      </button>
    </li>
  );
}
