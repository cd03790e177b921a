import { type KeyboardEvent, useEffect, useId, useRef, useState } from "react";
import type { Says } from "../design/place-words";
import { useDesign } from "../design/store";
import { clock, plain, hours as writeHours } from "../lib/format";
import { type Read, readHours, readNumber, readShare } from "../lib/parse";
import { useFieldName } from "../ui/field-name";
import { keepInside } from "../ui/keep-inside";
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
  /** "share" shows per cent, "hours" takes 18 min or 1:30, "clock" a time of day, "whole" steps by one. */
  as?: "number" | "share" | "hours" | "clock" | "whole";
  /** How a value of the document is said, where it is shown in another unit. */
  says?: Says;
  /** Whether the arrow keys go below zero. */
  signed?: boolean;
  /**
   * When what is typed counts: at each key ("typed"), where it is only asked about; after a pause
   * ("soon"); or on Enter and on leaving the field ("left"), where half a number would do harm. A
   * time is always of the last kind.
   */
  applies?: "typed" | "soon" | "left";
  width?: string;
  placeholder?: string;
}

const PAUSE_MS = 250;
const TIMES: readonly string[] = ["hours", "clock"];

/** A number as people type it: decimal comma or point, arrow keys step, refused values stay. */
export function NumberField(props: NumberFieldProps) {
  const { label, value, onChange, onClear, unit, path, as = "number", placeholder } = props;
  const applies = props.applies ?? (TIMES.includes(as) ? "left" : "soon");
  const [draft, setDraft] = useState<string | null>(null);
  const timer = useRef<ReturnType<typeof setTimeout>>(undefined);
  const sent = useRef(value);
  const messageId = useId();
  const name = useFieldName();
  const seal = useDesign((state) => state.seal);
  const refused = useProblem(path, label, props.says ?? SAYS[as]);
  const shown = draft ?? (value === null ? "" : write(value, as));
  const read = draft === null ? null : READERS[as](withoutUnit(draft, unit));
  const message = problemOf(read, Boolean(onClear)) ?? refused;

  // Changed from elsewhere, by an undo or a fix: what was typed here is no longer of it.
  useEffect(() => {
    if (value !== sent.current) setDraft(null);
    sent.current = value;
  }, [value]);
  useEffect(() => () => clearTimeout(timer.current), []);

  const send = (next: number) => {
    if (next === value) return;
    sent.current = next;
    onChange(next);
  };
  const apply = (text: string) => {
    clearTimeout(timer.current);
    const now = READERS[as](withoutUnit(text, unit));
    if (now.kind === "number") send(now.value);
    if (now.kind === "empty" && onClear && value !== null) {
      sent.current = null;
      onClear();
    }
    return now;
  };
  const type = (text: string) => {
    setDraft(text);
    clearTimeout(timer.current);
    if (applies === "typed") apply(text);
    if (applies === "soon") timer.current = setTimeout(() => apply(text), PAUSE_MS);
  };
  const leave = () => {
    if (draft !== null) {
      const now = apply(draft);
      if (now.kind === "number" || (now.kind === "empty" && onClear)) setDraft(null);
    }
    seal();
  };
  const press = (event: KeyboardEvent<HTMLInputElement>) => {
    if (event.key === "Enter" && draft !== null) apply(draft);
    if (event.key === "Escape" && draft !== null) {
      clearTimeout(timer.current);
      setDraft(null);
    }
    const way = event.key === "ArrowUp" ? 1 : event.key === "ArrowDown" ? -1 : 0;
    const now = READERS[as](withoutUnit(shown, unit));
    if (!way || now.kind !== "number") return;
    event.preventDefault();
    clearTimeout(timer.current);
    setDraft(null);
    const next = Number((now.value + way * stepOf(now.value, as)).toPrecision(8));
    // A step ends at zero where less makes no sense; below it, it goes on from there.
    send(props.signed || now.value < 0 ? next : Math.max(next, 0));
  };

  return (
    <span className="relative inline-flex items-center gap-1">
      <input
        {...name}
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
        onKeyDown={press}
      />
      {unit ? <span className="text-sm text-soft">{unit}</span> : null}
      {message ? (
        <span
          key={message}
          ref={keepInside}
          id={messageId}
          role="alert"
          className="absolute top-full left-0 z-10 mt-0.5 w-max max-w-60 rounded border border-stop bg-card px-1.5 py-0.5 text-left text-stop text-xs"
        >
          {message}
          {read?.kind === "ambiguous"
            ? read.readings.map((one) => (
                <button
                  key={one.text}
                  type="button"
                  className="ml-1.5 rounded border border-edge px-1.5 text-ink hover:border-river"
                  onClick={() => {
                    setDraft(null);
                    send(one.value);
                  }}
                >
                  {one.text}
                </button>
              ))
            : null}
        </span>
      ) : null}
    </span>
  );
}

const READERS = {
  number: readNumber,
  whole: readNumber,
  share: readShare,
  hours: readHours,
  clock: readHours,
} satisfies Record<string, (text: string) => Read>;

/** How a value is said where it is no plain number. */
const SAYS: Partial<Record<NonNullable<NumberFieldProps["as"]>, Says>> = {
  share: (value) => `${write(value, "share")} %`,
  hours: (value) => write(value, "hours"),
  clock: (value) => write(value, "clock"),
};

/** The unit of the field may be typed after the number. */
function withoutUnit(text: string, unit: string | undefined): string {
  const trimmed = text.trim();
  return unit && trimmed.toLowerCase().endsWith(unit.toLowerCase())
    ? trimmed.slice(0, -unit.length)
    : trimmed;
}

function problemOf(read: Read | null, mayBeEmpty: boolean): string | undefined {
  switch (read?.kind) {
    case "refused":
      return read.why;
    case "ambiguous":
      return "Which is meant?";
    case "empty":
      return mayBeEmpty ? undefined : "a number is needed";
    default:
      return undefined;
  }
}

function write(value: number, as: NumberFieldProps["as"]): string {
  if (as === "share") return plain(value * 100);
  if (as === "clock") return clock(value);
  if (as === "hours") return value < 24 || value % 24 ? writeHours(value) : `${value} h`;
  return plain(value);
}

function stepOf(value: number, as: NumberFieldProps["as"]): number {
  const size = Math.abs(value);
  if (as === "whole") return 1;
  if (as === "share") return 0.01;
  if (TIMES.includes(as ?? "")) return 0.25;
  return size >= 100 ? 10 : size >= 10 ? 1 : 0.1;
}
