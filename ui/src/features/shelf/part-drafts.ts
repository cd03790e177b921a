/** A part that was typed and not saved yet, kept for this window until it is saved or cancelled. */

import type { KeptPart, ShelfPart } from "../../api/types";

interface PartDraft {
  /** Revision that it changes; null for a new part. */
  base: number | null;
  part: ShelfPart;
}

const keyOf = (kept: KeptPart | null, kind: string) => `part ${kept?.id ?? `new ${kind}`}`;

export function keepPart(kept: KeptPart | null, part: ShelfPart): void {
  const draft: PartDraft = { base: kept?.revision ?? null, part };
  sessionStorage.setItem(keyOf(kept, part.kind), JSON.stringify(draft));
}

export function dropPart(kept: KeptPart | null, kind: string): void {
  sessionStorage.removeItem(keyOf(kept, kind));
}

/** What was typed of a part before; nothing if the part was changed elsewhere since. */
export function findPart(kept: KeptPart | null, kind: string): ShelfPart | null {
  const text = sessionStorage.getItem(keyOf(kept, kind));
  if (!text) return null;
  const draft = JSON.parse(text) as PartDraft;
  if (draft.base === (kept?.revision ?? null)) return draft.part;
  dropPart(kept, kind);
  return null;
}
