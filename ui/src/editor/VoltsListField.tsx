import { useEffect, useState } from "react";
import { plain } from "../lib/format";
import { readNumbers } from "../lib/parse";
import { useFieldName } from "../ui/field-name";
import { useProblem } from "./use-problem";

interface VoltsListFieldProps {
  label: string;
  value: readonly number[];
  path: string;
  onChange: (value: number[]) => void;
}

/** Several voltages in one field, as on a label: 12 / 16.5 / 20 / 24. It may be empty. */
export function VoltsListField({ label, value, path, onChange }: VoltsListFieldProps) {
  const written = value.map(plain).join(" / ");
  const [text, setText] = useState(written);
  const [problem, setProblem] = useState("");
  const name = useFieldName();
  const refused = useProblem(path, label);
  useEffect(() => setText(written), [written]);
  const take = () => {
    const read = readNumbers(text);
    if (typeof read === "string") return setProblem(read);
    setProblem("");
    if (read.join() !== value.join()) onChange(read);
    else setText(written);
  };
  const message = problem || refused;
  return (
    <span className="relative inline-flex items-center gap-1">
      <input
        {...name}
        className="field w-36"
        aria-label={label}
        aria-invalid={Boolean(message)}
        value={text}
        placeholder="none"
        onChange={(event) => setText(event.target.value)}
        onBlur={take}
        onKeyDown={(event) => event.key === "Enter" && take()}
      />
      <span className="text-sm text-soft">V by switch</span>
      {message ? (
        <span role="alert" className="text-sm text-stop">
          {message}
        </span>
      ) : null}
    </span>
  );
}
