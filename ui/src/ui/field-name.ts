import { createContext, useContext, useId } from "react";

/** Id of the visible name that the fields of a row stand under. */
export const RowNameContext = createContext("");

/**
 * The accessible name of a field in a row: the visible name of the row, then what the field calls
 * itself. Its own `aria-label` is the second part.
 */
export function useFieldName(): { id: string; "aria-labelledby"?: string } {
  const row = useContext(RowNameContext);
  const id = useId();
  return row ? { id, "aria-labelledby": `${row} ${id}` } : { id };
}
