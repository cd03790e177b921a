import { useState } from "react";
import { Link } from "react-router";
import { api } from "../../api/client";
import type { KeptPart } from "../../api/types";
import { useShelf, useShelfChange } from "../../api/use-shelf";
import { NumberField } from "../../editor/NumberField";

/** How many of each part are there already: they cost nothing. Kept with the part. */
export function OwnedList() {
  const { data } = useShelf();
  const [open, setOpen] = useState(false);
  const work = useShelfChange();
  const parts = (data ?? []).filter((kept) => kept.part.kind !== "panel");
  const mine = parts.filter((kept) => kept.part.owned > 0);
  const set = (kept: KeptPart, owned: number) =>
    void work(() => api.savePart(kept.id, kept.revision, { ...kept.part, owned }));
  const named = mine.map(({ part }) => (part.owned > 1 ? `${part.owned} × ` : "") + part.name);
  return (
    <details
      className="mt-2 text-sm"
      data-part="have"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary>
        {mine.length
          ? `You have: ${named.join(", ")}`
          : "Say what you have already: it costs nothing"}
      </summary>
      <ul className="mt-2 grid grid-cols-1 gap-x-6 sm:grid-cols-2 lg:grid-cols-3">
        {(open ? parts : []).map((kept) => (
          <li key={kept.id} className="flex items-center gap-2 py-0.5">
            <NumberField
              label={`Owned: ${kept.part.name}`}
              as="whole"
              width="w-12"
              placeholder="0"
              value={kept.part.owned || null}
              path="/owned"
              onChange={(value) => set(kept, Math.min(Math.max(Math.round(value), 0), 1000))}
              onClear={() => set(kept, 0)}
            />
            {kept.part.name}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-soft text-xs">
        Kept with each part on{" "}
        <Link to="/shelf" className="text-river underline">
          the shelf
        </Link>
        .
      </p>
    </details>
  );
}
