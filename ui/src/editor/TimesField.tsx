import { useEffect, useState } from "react";
import type { Between } from "../api/types";
import { readSpans, writeSpans } from "../design/when";
import { useFieldName } from "../ui/field-name";

interface TimesFieldProps {
  label: string;
  value: Between | null;
  onChange: (value: Between) => void;
  /** With it the field may be empty: always. */
  onClear?: () => void;
  /** What an empty field says. */
  placeholder?: string;
}

/** Spans of the day as people write them: 19:00-22:30, 23-6. */
export function TimesField({ label, value, onChange, onClear, placeholder }: TimesFieldProps) {
  const written = value ? writeSpans(value) : "";
  const [text, setText] = useState(written);
  const name = useFieldName();
  const [problem, setProblem] = useState("");
  useEffect(() => setText(written), [written]);
  const take = () => {
    const read = readSpans(text, 1);
    if (typeof read === "string") return setProblem(read);
    if (!text.trim() && onClear) {
      setProblem("");
      if (value) onClear();
      return;
    }
    if (read.kind !== "windows") return setProblem("write spans like 9:00-11:00");
    setProblem("");
    if (text.trim() !== written) onChange(read);
  };
  return (
    <>
      <input
        {...name}
        className="field w-44"
        aria-label={label}
        aria-invalid={problem !== ""}
        value={text}
        placeholder={placeholder ?? (onClear ? "always" : "9:00-11:00")}
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === "Enter" && take()}
      />
      {problem ? (
        <span role="alert" className="text-sm text-stop">
          {problem}
        </span>
      ) : null}
    </>
  );
}
