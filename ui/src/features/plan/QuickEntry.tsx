import { type KeyboardEvent, useState } from "react";
import { api, Refused } from "../../api/client";
import type { Reading } from "../../api/types";
import { addLoad } from "../../design/edits";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";

/** One line in nameplate words, read as it is typed; Enter adds what was understood. */
export function QuickEntry() {
  const [line, setLine] = useState("");
  const change = useDesign((state) => state.change);
  const apply = useDesign((state) => state.apply);
  const reading = useAnswer("read-load", (design, signal) => api.readLoad(line, design, signal), {
    key: [line],
    enabled: line.trim() !== "",
  });
  const read = line.trim() ? reading.data : null;
  const current = reading.standing.status === "fresh" && read?.line === line ? read : null;

  const add = async (event: KeyboardEvent) => {
    if (event.key === "Escape") setLine("");
    if (event.key !== "Enter" || !line.trim()) return;
    event.preventDefault();
    // Typed faster than it was read: wait for this very line.
    const mine = current ?? (await readNow(line));
    const load = mine?.load;
    if (!load) return;
    if (event.shiftKey && current?.joined) {
      join(current.joined);
      return;
    }
    change(`add ${load.name}`, (design) => addLoad(design, load));
    setLine((now) => (now === line ? "" : now));
  };

  /** Adds the load with the inverter or converter that it needs, in one step. */
  const join = (stage: NonNullable<Reading["joined"]>) => {
    if (
      !reading.stamp ||
      !apply(`add ${current?.load?.name} and ${stage.name}`, stage.edits, reading.stamp)
    )
      return;
    setLine("");
    document.getElementById("quick-entry")?.focus();
  };

  const choose = (option: Option) => {
    change(`add ${option.load.name}`, (design) => addLoad(design, option.load));
    setLine("");
    document.getElementById("quick-entry")?.focus();
  };

  return (
    <div className="no-print my-2">
      <div className="flex flex-wrap items-start gap-x-4 gap-y-1">
        <input
          id="quick-entry"
          className="h-10 w-full max-w-130 rounded border-2 border-ink bg-card px-3"
          placeholder="kettle 230V 900W 18 min"
          aria-label="Add a load in nameplate words"
          aria-describedby="quick-reading"
          autoComplete="off"
          spellCheck={false}
          maxLength={300}
          value={line}
          onChange={(event) => setLine(event.target.value)}
          onKeyDown={(event) => void add(event)}
        />
        <div id="quick-reading" className="min-h-10 flex-1 basis-72 text-sm" aria-live="polite">
          {reading.error ? (
            <p className="text-stop">
              {reading.error instanceof Refused ? reading.error.message : "Not read: no answer."}
            </p>
          ) : read ? (
            <>
              <Understood reading={read} />
              {current?.joined ? (
                <p data-part="joined">
                  <button
                    type="button"
                    className="rounded border border-edge px-2 py-0.5 text-left hover:border-river"
                    onClick={() => current.joined && join(current.joined)}
                  >
                    Add it with {current.joined.name}
                  </button>{" "}
                  <span className="text-soft">⇧⏎</span>
                </p>
              ) : null}
              {current?.question ? <Asked question={current.question} onChoose={choose} /> : null}
            </>
          ) : (
            <p className="pt-1 text-soft">
              Name, volts, watts or amps, time a day. Try “fridge 220-240V~ 1.0A 24h 35%”, “4 x lamp
              24V 24W 4h”.
            </p>
          )}
        </div>
      </div>
    </div>
  );
}

type Question = NonNullable<Reading["question"]>;
type Option = Question["options"][number];

/** Read a line now; null if there is no answer: the field says so by itself. */
async function readNow(line: string): Promise<Reading | null> {
  const design = useDesign.getState().document;
  if (!design) return null;
  return api.readLoad(line, design, new AbortController().signal).catch(() => null);
}

interface AskedProps {
  question: Question;
  onChoose: (option: Option) => void;
}

/** What a line leaves open, and a button for each way to read it. */
function Asked({ question, onChoose }: AskedProps) {
  return (
    <fieldset className="mt-1" data-part="question">
      <legend className="text-watch">{question.text}</legend>
      <ul className="mt-1 space-y-1">
        {question.options.map((option) => (
          <li key={option.line}>
            <button
              type="button"
              className="rounded border border-edge px-2 py-0.5 text-left hover:border-river"
              onClick={() => onChoose(option)}
            >
              {option.label}
            </button>{" "}
            <span className="text-soft">{option.summary}</span>
          </li>
        ))}
      </ul>
    </fieldset>
  );
}

const LOOKS = {
  read: "",
  name: "font-semibold",
  "set aside": "text-soft line-through",
  problem: "text-stop underline decoration-wavy underline-offset-4",
};

function Understood({ reading }: { reading: Reading }) {
  const { line, marks, summary, notes, problems } = reading;
  const pieces: { text: string; mark?: Reading["marks"][number] }[] = [];
  let at = 0;
  // A later mark on the same stretch says more: a quantity first taken, then found wanting.
  const last = new Map(marks.map((mark) => [mark.start, mark]));
  for (const mark of [...last.values()].sort((a, b) => a.start - b.start)) {
    if (mark.start > at) pieces.push({ text: line.slice(at, mark.start) });
    pieces.push({ text: line.slice(mark.start, mark.end), mark });
    at = mark.end;
  }
  return (
    <div data-reading={reading.load ? "complete" : "incomplete"}>
      {problems.length ? (
        <p className="whitespace-pre-wrap">
          {pieces.map((piece) => (
            <span
              key={piece.mark?.start ?? `gap-${piece.text}`}
              className={piece.mark ? LOOKS[piece.mark.kind] : ""}
              title={piece.mark?.text}
              data-mark={piece.mark?.kind}
            >
              {piece.text}
            </span>
          ))}
        </p>
      ) : null}
      {summary ? (
        <p>
          reads as <strong>{summary}</strong> <span className="text-soft">⏎ adds it</span>
        </p>
      ) : null}
      {problems.map((problem) => (
        <p key={problem} className="text-stop">
          {problem}
        </p>
      ))}
      {problems.length ? null : notes.length ? (
        <p className="text-soft">{notes.join(" ")}</p>
      ) : null}
    </div>
  );
}
