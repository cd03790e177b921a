import { useState } from "react";
import { Link } from "react-router";
import { api } from "../../api/client";
import { useShelf } from "../../api/use-shelf";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { quantity } from "../../lib/format";
import { money } from "../../lib/own-units";
import { Button } from "../../ui/Button";
import { Modal } from "../../ui/Modal";
import { copyAt, describe, KINDS, take } from "./parts";

/** Parts of the shelf for a place in the design, those that suit it first, with the reason. */
export default function PickPartDialog({ subject }: { subject: string }) {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const close = usePlan((state) => state.ask);
  const shelf = useShelf();
  const [words, setWords] = useState("");
  const suits = useAnswer("suits", (document, signal) => api.suits(document, subject, signal), {
    key: [subject, shelf.dataUpdatedAt],
  });
  const here = design ? copyAt(design, subject) : null;
  if (!here) return null;
  const wanted = words.toLowerCase();
  const rows = (suits.data ?? []).flatMap((suit) => {
    const kept = shelf.data?.find((one) => one.id === suit.id);
    return kept?.part.name.toLowerCase().includes(wanted) ? [{ suit, kept }] : [];
  });
  return (
    <Modal
      title={`From the shelf: ${KINDS[here.kind].many.toLowerCase()}`}
      name="pick"
      wide
      onClose={() => close(null)}
    >
      <input
        className="field mt-2 w-72"
        aria-label="Filter parts"
        placeholder="filter by name"
        value={words}
        onChange={(event) => setWords(event.target.value)}
      />
      {suits.error ? <p className="mt-2 text-stop">{suits.error.message}</p> : null}
      <ul className="mt-3 max-h-[55vh] divide-y divide-line overflow-y-auto border-line border-y">
        {rows.map(({ suit, kept }) => (
          <li key={kept.id}>
            <button
              type="button"
              className="w-full px-2 py-1.5 text-left text-sm hover:bg-river-wash focus-visible:bg-river-wash"
              data-part-name={kept.part.name}
              onClick={() => {
                change(`use ${kept.part.name}`, (d) => take(d, subject, kept));
                close(null);
              }}
            >
              <span className="flex flex-wrap gap-x-3">
                <strong>{kept.part.name}</strong>
                <span className={suit.suits ? "text-moss" : "text-fix"}>
                  {suit.suits ? "✓" : "▲"} {suit.why}
                </span>
              </span>
              <span className="block text-soft text-xs">
                {describe(kept.part)}
                {kept.part.mass_kg ? ` · ${quantity(kept.part.mass_kg, "kg")}` : ""}
                {kept.part.price ? ` · price ${money(kept.part.price, 3)}` : ""}
                {kept.part.notes ? ` · ${kept.part.notes}` : ""}
              </span>
            </button>
          </li>
        ))}
      </ul>
      {suits.data && !rows.length ? (
        <p className="mt-2 text-sm">No part of that name is on the shelf.</p>
      ) : null}
      <div className="mt-4 flex justify-between">
        <Link to="/shelf" className="self-center text-river text-sm underline">
          To the shelf
        </Link>
        <Button onClick={() => close(null)}>Cancel</Button>
      </div>
    </Modal>
  );
}
