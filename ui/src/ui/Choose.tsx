import { useFieldName } from "./field-name";

interface ChooseProps<T extends string> {
  label: string;
  value: T;
  options: readonly (readonly [T, string])[];
  onChange: (value: T) => void;
  className?: string;
}

/** One of a few, as a native select: known to every keyboard and phone. */
export function Choose<T extends string>(props: ChooseProps<T>) {
  const name = useFieldName();
  return (
    <select
      {...name}
      className={`field ${props.className ?? ""}`}
      aria-label={props.label}
      value={props.value}
      onChange={(event) => props.onChange(event.target.value as T)}
    >
      {props.options.map(([value, text]) => (
        <option key={value} value={value}>
          {text}
        </option>
      ))}
    </select>
  );
}
