import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type KeyboardEvent, useDeferredValue, useState } from "react";
import { api } from "../api/client";
import type { LabelKind, LabelReading } from "../api/types";
import { Button } from "../ui/Button";

interface LabelEntryProps {
  kind: LabelKind;
  /** Take the figures that a label says. */
  onUse: (figures: Record<string, unknown>) => void;
}

const EXAMPLES: Record<LabelKind, string> = {
  battery: "LiFePO4 12.8V 100Ah 1280Wh, max. discharge 100A, -20-60 °C",
  inverter: "Pure sine, DC 10-15V, AC 230V 50Hz 1500W, surge 3000W, no load 0.9A",
  converter: "Input 9-36V, output 12V 10A, efficiency 93%",
  charger: "Input 100-240V~, output 14.6V 20A LiFePO4",
  station: "512Wh LFP; AC 230V 600W surge 1200W; USB-C 100W; solar input 11-50V 10A 200W",
  panel: "100W Voc 22.3V Vmp 18.6V Isc 5.8A Imp 5.4A",
};

/** The text of a label, pasted or typed: what is understood of it, and a key to take it. */
export function LabelEntry({ kind, onUse }: LabelEntryProps) {
  const [text, setText] = useState("");
  const asked = useDeferredValue(text);
  const { data, error, isPlaceholderData } = useQuery({
    queryKey: ["label", kind, asked],
    queryFn: ({ signal }) => api.readLabel(asked, kind, signal),
    enabled: asked.trim() !== "",
    placeholderData: keepPreviousData,
    retry: false,
  });
  const read = text.trim() && data?.text === text && !isPlaceholderData ? data : null;
  const take = () => {
    if (!read?.figures) return;
    onUse(read.figures);
    setText("");
  };
  const key = (event: KeyboardEvent) => {
    if (event.key === "Enter" && !event.shiftKey) {
      event.preventDefault();
      take();
    }
  };
  return (
    <div className="mb-2" data-part="label-entry">
      <textarea
        className="field h-16 w-full resize-y py-1"
        aria-label="Label of the part"
        placeholder={EXAMPLES[kind]}
        maxLength={2000}
        spellCheck={false}
        value={text}
        onChange={(event) => setText(event.target.value)}
        onKeyDown={key}
      />
      {error ? <p className="text-sm text-stop">{error.message}</p> : null}
      {read ? <Understood reading={read} /> : null}
      {read?.figures ? (
        <Button onClick={take} data-part="use-label">
          Use what it says
        </Button>
      ) : (
        <p className="text-soft text-xs">
          Type or paste its label: Enter takes what was understood.
        </p>
      )}
    </div>
  );
}

const LOOKS: Record<string, string> = {
  read: "underline decoration-river decoration-2 underline-offset-4",
  "set aside": "text-soft line-through",
};

function Understood({ reading }: { reading: LabelReading }) {
  const pieces: { text: string; at: number; mark?: LabelReading["marks"][number] }[] = [];
  let at = 0;
  for (const mark of reading.marks) {
    if (mark.start < at) continue;
    if (mark.start > at) pieces.push({ text: reading.text.slice(at, mark.start), at });
    pieces.push({ text: reading.text.slice(mark.start, mark.end), at: mark.start, mark });
    at = mark.end;
  }
  pieces.push({ text: reading.text.slice(at), at });
  return (
    <div className="my-1 text-sm" aria-live="polite">
      <p className="whitespace-pre-wrap" data-part="label-read">
        {pieces.map((piece) => (
          <span
            key={piece.at}
            className={piece.mark ? LOOKS[piece.mark.kind] : ""}
            title={piece.mark?.text}
            data-mark={piece.mark?.kind}
          >
            {piece.text}
          </span>
        ))}
      </p>
      {reading.problems.map((problem) => (
        <p key={problem} className="text-stop">
          {problem}
        </p>
      ))}
      {reading.notes.length ? <p className="text-soft">{reading.notes.join(" ")}</p> : null}
      {reading.figures && reading.missing.length ? (
        <p className="text-soft text-xs">Not on it, left as below: {reading.missing.join(", ")}.</p>
      ) : null}
    </div>
  );
}
