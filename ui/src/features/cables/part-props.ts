import type { CableRow, Design, Fuse } from "../../api/types";

/** What each group of a cable's details gets: its row, and how it changes the design. */
export interface PartProps {
  row: CableRow;
  set: (what: string, make: (d: Design) => Design) => void;
}

/** A kind of fuse, or none stated. */
export type FuseKind = NonNullable<Fuse["kind"]> | null;
