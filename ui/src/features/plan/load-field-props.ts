import type { Load } from "../../api/types";

/** What each field of a load gets: the load, where a field is in the document, how to set it. */
export interface LoadFieldProps {
  load: Load;
  path: (field: string) => string;
  set: (field: string, part: Partial<Load>) => void;
}
