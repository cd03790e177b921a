import { feet, lengthOf, metres } from "../lib/own-units";
import { useSettings } from "../lib/settings";
import { NumberField } from "./NumberField";

interface LengthFieldProps {
  label: string;
  /** In metres, as the document has it. */
  value: number | null;
  onChange: (metres: number) => void;
  onClear?: () => void;
  path: string;
  placeholder?: string;
  /** What stands in the empty field, in metres. */
  about?: number;
}

/** A length, in metres or feet as the reader likes. */
export function LengthField({ value, onChange, about, placeholder, ...rest }: LengthFieldProps) {
  const unit = useSettings((state) => state.lengths);
  const shown = (m: number) => (unit === "ft" ? feet(m) : m);
  const hint = about === undefined ? placeholder : `≈ ${Number(shown(about).toPrecision(3))}`;
  return (
    <NumberField
      {...rest}
      {...(hint === undefined ? {} : { placeholder: hint })}
      unit={unit}
      width="w-14"
      value={value === null ? null : shown(value)}
      says={lengthOf}
      onChange={(typed) => onChange(unit === "ft" ? metres(typed) : typed)}
    />
  );
}
