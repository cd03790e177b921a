import { Choose } from "../../ui/Choose";

const HERTZ = [
  ["", "Hz not stated"],
  ["50", "50 Hz"],
  ["60", "60 Hz"],
] as const;

interface HertzChoiceProps {
  label: string;
  value: 50 | 60 | null | undefined;
  onChange: (hz: 50 | 60 | null) => void;
}

/** The frequency an AC output gives, if its label says. */
export function HertzChoice({ label, value, onChange }: HertzChoiceProps) {
  return (
    <Choose
      label={label}
      value={value === 50 ? "50" : value === 60 ? "60" : ""}
      options={HERTZ}
      onChange={(hz) => onChange(hz === "50" ? 50 : hz === "60" ? 60 : null)}
    />
  );
}
