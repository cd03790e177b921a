import { type KeyboardEvent, useId, useState } from "react";
import { useDesign } from "../design/store";
import { plain, hours as writeHours } from "../lib/format";
import { parseHours, parseNumber } from "../lib/parse";
import { useProblem } from "./use-problem";

interface NumberFieldProps {
  /** Said by screen readers, and shown if `caption` is set. */
  label: string;
  value: number | null;
  onChange: (value: number) => void;
  /** With it the field may be empty. */
  onClear?: () => void;
  unit?: string;
  /** JSON Pointer of the value, to show what the server says of it. */
  path: string;
  /** "share" shows per cent, "hours" takes 18 min or 1h30, "whole" steps by one. */
  as?: "number" | "share" | "hours" | "whole";
  width?: string;
  placeholder?: string;
}

/** A number as people type it: decimal comma or point, arrow keys step, refused values stay. */
export function NumberField(props: NumberFieldProps) {
  const { label, value, onChange, onClear, unit, path, as = "number", placeholder } = props;
  const [draft, setDraft] = useState<string | null>(null);
  const messageId = useId();
  const seal = useDesign((state) => state.seal);
  const refused = useProblem(path);
  const shown = draft ?? (value === null ? "" : write(value, as));
  const unread = draft !== null && draft.trim() !== "" && read(draft, as) === null;
  const missing = draft !== null && draft.trim() === "" && !onClear;
  const message = unread ? "not a number" : missing ? "a number is needed" : refused;

  const type = (text: string) => {
    setDraft(text);
    const next = read(text, as);
    if (next !== null) onChange(next);
    else if (text.trim() === "") onClear?.();
  };
  const leave = () => {
    seal();
    if (!unread && !missing) setDraft(null);
  };
  const step = (event: KeyboardEvent<HTMLInputElement>) => {
    const way = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
    const now = read(shown, as);
    if (!way || now === null) return;
    event.preventDefault();
    const next = Math.max(now + way * stepOf(now, as), 0);
    setDraft(null);
    onChange(Number(next.toPrecision(8)));
  };

  return (
    <span className="relative inline-flex items-center gap-1">
      <input
        className={`field text-right ${props.width ?? "w-20"}`}
        aria-label={label}
        aria-invalid={Boolean(message)}
        aria-describedby={message ? messageId : undefined}
        inputMode="decimal"
        value={shown}
        placeholder={placeholder}
        onChange={(event) => type(event.target.value)}
        onFocus={(event) => event.target.select()}
        onBlur={leave}
        onKeyDown={step}
      />
      {unit ? <span className="text-sm text-soft">{unit}</span> : null}
      {message ? (
        <span
          id={messageId}
          role="alert"
          className="absolute top-full left-0 z-10 mt-0.5 w-max max-w-60 rounded border border-stop bg-card px-1.5 py-0.5 text-left text-xs text-stop"
        >
          {message}
        </span>
      ) : null}
    </span>
  );
}

function read(text: string, as: NumberFieldProps["as"]): number | null {
  if (as === "hours") return parseHours(text);
  const value = parseNumber(text.replace(/%$/, ""));
  if (value === null) return null;
  return as === "share" ? Number((value / 100).toPrecision(8)) : value;
}

function write(value: number, as: NumberFieldProps["as"]): string {
  if (as === "share") return plain(value * 100);
  if (as === "hours") return value < 24 || value % 24 ? writeHours(value) : `${value} h`;
  return plain(value);
}

function stepOf(value: number, as: NumberFieldProps["as"]): number {
  if (as === "whole") return 1;
  if (as === "share") return 0.01;
  if (as === "hours") return 0.25;
  return value >= 100 ? 10 : value >= 10 ? 1 : 0.1;
}
