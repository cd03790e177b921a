import { useFieldName } from "./field-name";

interface TickProps {
  label: string;
  checked: boolean;
  onChange: (checked: boolean) => void;
}

/** Yes or no. */
export function Tick({ label, checked, onChange }: TickProps) {
  const name = useFieldName();
  return (
    <input
      {...name}
      type="checkbox"
      className="size-4 accent-river"
      aria-label={label}
      checked={checked}
      onChange={(event) => onChange(event.target.checked)}
    />
  );
}
