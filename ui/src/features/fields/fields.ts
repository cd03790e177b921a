import type { Battery, Converter, Inverter } from "../../api/types";

export type { StationFigures } from "../../api/types";

/** Props of the fields of a part, in a design or on the shelf. */
export interface FieldsProps<T> {
  value: T;
  /** First word of the names that screen readers say. */
  label: string;
  /** Where the part's figures stand, as a JSON Pointer: refusals are shown at their field. */
  at: string;
  /** Change some figures; `field` names them for undo. */
  set: (field: string, part: Partial<T>) => void;
}

type Labelled =
  | "id"
  | "name"
  | "kind"
  | "rail"
  | "switched"
  | "transfer"
  | "changeover"
  | "cable_mohm"
  | "cable"
  | "fuse"
  | "connector"
  | "bus_bar_a"
  | "shunt_a"
  | "provenance"
  | "shelf";
export type InverterFigures = Omit<Inverter, Labelled>;
export type ConverterFigures = Omit<Converter, Labelled | "parallel">;
export type BatteryFigures = Omit<Battery, "name" | "provenance" | "shelf">;

/** Fields whose values may be numbers. */
type Numbers<T> = { [K in keyof T]-?: number extends T[K] ? K : never }[keyof T] & string;

/** Props of number fields over a part's figures, by the name of the figure and what it is called. */
export function boundTo<T>({ value, label, at, set }: FieldsProps<T>) {
  const common = (key: Numbers<T>, what: string) => ({
    label: `${label}: ${what}`,
    path: `${at}/${key}`,
    onChange: (given: number) => set(what, { [key]: given } as Partial<T>),
  });
  return {
    number: (key: Numbers<T>, what: string) => ({
      ...common(key, what),
      value: value[key] as number,
    }),
    /** One that may be empty. */
    optional: (key: Numbers<T>, what: string) => ({
      ...common(key, what),
      value: (value[key] ?? null) as number | null,
      onClear: () => set(what, { [key]: null } as Partial<T>),
    }),
  };
}
