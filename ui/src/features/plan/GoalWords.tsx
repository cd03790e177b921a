import { type KeyboardEvent, useState } from "react";
import { api } from "../../api/client";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { useNotice } from "../../lib/notice";

interface GoalWordsProps {
  /** Told whether what fills the store counts, where the words say it. */
  onRefill?: (counts: boolean) => void;
}

/** The goal in plain words, read as it is typed; Enter makes it the goal. */
export function GoalWords({ onRefill }: GoalWordsProps) {
  const [line, setLine] = useState("");
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const reading = useAnswer("read-goal", (design, signal) => api.readGoal(line, design, signal), {
    key: [line],
    enabled: line.trim() !== "",
  });
  const read = line.trim() ? reading.data : null;
  const current = reading.standing.status === "fresh" && read?.line === line ? read : null;
  const take = (event: KeyboardEvent) => {
    if (event.key === "Escape") setLine("");
    if (event.key !== "Enter" || !current?.summary || !reading.stamp) return;
    event.preventDefault();
    if (current.edits.length) {
      if (!apply(`goal: ${current.summary}`, current.edits, reading.stamp)) return;
      notify(`${current.summary}: this is the goal now.`, { label: "Undo", act: undo });
    }
    if (typeof current.refill === "boolean") onRefill?.(current.refill);
    setLine("");
  };
  return (
    <span className="block w-full max-w-130 text-sm" data-part="goal-words">
      <input
        className="field w-full"
        aria-label="The goal in words"
        placeholder="two days without recharging"
        autoComplete="off"
        spellCheck={false}
        maxLength={200}
        value={line}
        onChange={(event) => setLine(event.target.value)}
        onKeyDown={take}
      />
      {read ? (
        <span className="block pt-0.5" aria-live="polite">
          {read.summary ? (
            <>
              reads as <strong>{read.summary}</strong>{" "}
              <span className="text-soft">⏎ makes it the goal</span>
            </>
          ) : null}
          <span className="block text-soft">{read.notes.join(" ")}</span>
          <span className="block text-stop">{read.problems.join(" ")}</span>
        </span>
      ) : null}
    </span>
  );
}
