import { api } from "../../api/client";
import type { ShelfPart } from "../../api/types";
import { partOf, useShelf, useShelfChange } from "../../api/use-shelf";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { LabelEntry } from "../../editor/LabelEntry";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";
import { Row } from "../../ui/Row";
import { copyAt, differing, labelInto, take } from "./parts";

interface ShelfRowProps {
  /** The store or stage whose part it is. */
  subject: string;
  copy: { part: string; revision: number } | null;
}

/** Where a part's figures came from: chosen from the shelf, changed there since, put there. */
export function ShelfRow({ subject, copy }: ShelfRowProps) {
  const ask = usePlan((state) => state.ask);
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const shelf = useShelf();
  const work = useShelfChange();
  const here = design ? copyAt(design, subject) : null;
  if (!here) return null;
  const kept = copy ? partOf(shelf.data, copy.part) : undefined;
  const put = async () => {
    const part = {
      kind: here.kind,
      name: here.name,
      figures: here.figures,
      provenance: here.provenance,
    } as ShelfPart;
    const made = (await work(() => api.addParts([part])))?.[0];
    if (!made) return;
    change(`${part.name}: shelf`, (d) => take(d, subject, made));
    notify(`${part.name} is on the shelf.`);
  };
  const strays = kept ? differing(kept.part.figures, here.figures) : [];
  // Its price or how many one has may have changed: no matter for a design.
  const newer = kept && copy && kept.revision > copy.revision && strays.length > 0;
  return (
    <>
      <details className="text-sm" data-part="from-label">
        <summary className="text-river">From its label</summary>
        <LabelEntry
          kind={here.kind}
          onUse={(figures) => {
            change(`${here.name}: its label`, (d) => labelInto(d, subject, figures));
            notify(`${here.name} has the figures of its label.`, { label: "Undo", act: undo });
          }}
        />
      </details>
      <Row name="Shelf">
        <Button onClick={() => ask({ what: "part", subject })}>From the shelf…</Button>
        <Button look="quiet" onClick={() => void put()}>
          Put on the shelf
        </Button>
        {kept && newer ? (
          <span className="text-sm" data-part="shelf-changed">
            <span className="text-watch">◆ Changed on the shelf</span> since it was taken (
            {strays.join(", ")}).{" "}
            <Button
              onClick={() =>
                change(`${kept.part.name}: update from the shelf`, (d) => take(d, subject, kept))
              }
            >
              Update from the shelf
            </Button>
          </span>
        ) : null}
        {kept && !newer ? (
          <span className="text-soft text-sm" data-part="shelf-copy">
            a copy of {kept.part.name}
            {strays.length ? `, changed here: ${strays.join(", ")}` : ""}
          </span>
        ) : null}
        {copy && shelf.data && !kept ? (
          <span className="text-soft text-sm">its part is no longer on the shelf</span>
        ) : null}
      </Row>
    </>
  );
}
