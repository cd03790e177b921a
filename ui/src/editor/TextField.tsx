import { useDesign } from "../design/store";
import { useFieldName } from "../ui/field-name";
import { useProblem } from "./use-problem";

interface TextFieldProps {
  label: string;
  value: string;
  onChange: (value: string) => void;
  path: string;
  className?: string;
}

/** One line of text. */
export function TextField({ label, value, onChange, path, className = "" }: TextFieldProps) {
  const message = useProblem(path, label);
  const name = useFieldName();
  const seal = useDesign((state) => state.seal);
  return (
    <span className="relative block">
      <input
        {...name}
        className={`field w-full ${className}`}
        aria-label={label}
        aria-invalid={Boolean(message)}
        maxLength={80}
        value={value}
        onChange={(event) => onChange(event.target.value)}
        onBlur={seal}
      />
      {message ? (
        <span role="alert" className="block text-xs text-stop">
          {message}
        </span>
      ) : null}
    </span>
  );
}
