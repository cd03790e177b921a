import { useState } from "react";
import { Link } from "react-router";
import { api } from "../../api/client";
import type { CsvRow, KeptPart, PartKind, ShelfPart } from "../../api/types";
import { useReference } from "../../api/use-reference";
import { useShelf, useShelfChange } from "../../api/use-shelf";
import { number } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { money } from "../../lib/own-units";
import { useTitle } from "../../lib/use-title";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { JarMark } from "../../ui/JarMark";
import { Scroll } from "../../ui/Scroll";
import { Failed, Loading } from "../../ui/States";
import { ImportDialog } from "./ImportDialog";
import { PartDialog } from "./PartDialog";
import { describe, KINDS } from "./parts";

type Open = { start: ShelfPart; kept: KeptPart | null } | "import" | null;

/** The user's parts: found, added, changed, doubled, taken off, read in and written out. */
export default function ShelfPage() {
  const shelf = useShelf();
  const reference = useReference();
  const work = useShelfChange();
  const notify = useNotice((state) => state.notify);
  const [words, setWords] = useState("");
  const [kind, setKind] = useState<PartKind | "">("");
  const [open, setOpen] = useState<Open>(null);
  useTitle("Shelf");

  if (shelf.isPending || !reference) return <Loading what="Fetching the shelf" />;
  if (shelf.isError) {
    return (
      <Failed
        title="The shelf cannot be fetched"
        reason={shelf.error.message}
        onRetry={() => void shelf.refetch()}
      />
    );
  }
  const wanted = words.toLowerCase().split(/\s+/).filter(Boolean);
  const rows = shelf.data.filter(({ part }) => {
    const text = `${part.name} ${describe(part)} ${part.notes ?? ""}`.toLowerCase();
    return (!kind || part.kind === kind) && wanted.every((word) => text.includes(word));
  });
  const done = (saved: KeptPart) => {
    const before = open && open !== "import" ? open.kept : null;
    setOpen(null);
    void work(async () => saved);
    notify(`${saved.part.name} is ${before ? "changed" : "on the shelf"}.`, {
      label: "Undo",
      act: () =>
        void work(() =>
          before
            ? api.savePart(saved.id, saved.revision, before.part)
            : api.removePart(saved.id).then(() => null),
        ),
    });
  };
  const duplicate = ({ part }: KeptPart) =>
    setOpen({ start: { ...part, name: `${part.name} (copy)`.slice(0, 80) }, kept: null });
  const remove = async ({ id, part }: KeptPart) => {
    const gone = await work(() => api.removePart(id).then(() => true));
    if (!gone) return;
    notify(`${part.name} is off the shelf. Designs keep their copies.`, {
      label: "Undo",
      act: () => void work(() => api.restorePart(id)),
    });
  };
  const takeRows = async (good: readonly CsvRow[]) => {
    const parts = good.flatMap((row) => (row.part ? [row.part] : []));
    const made = await work(() => api.addParts(parts));
    if (!made) return;
    setOpen(null);
    notify(`${made.length} parts are on the shelf.`, {
      label: "Undo",
      act: () => void work(() => Promise.all(made.map((one) => api.removePart(one.id)))),
    });
  };
  return (
    <main className="mx-auto max-w-260 px-5 py-6">
      <p>
        <Link to="/" className="inline-flex items-center gap-2 font-head text-soft">
          <JarMark /> All designs
        </Link>
      </p>
      <h1 className="mt-2 text-3xl">Shelf</h1>
      <p className="text-soft">
        Your parts. A design takes a copy of one, and says when the part here has changed since. The
        plain ones to start with carry believable figures, not those of any one maker.
      </p>
      <div className="mt-4 flex flex-wrap items-center gap-2">
        <input
          className="field w-64"
          aria-label="Filter the shelf"
          placeholder="filter: 24 V boost"
          value={words}
          onChange={(event) => setWords(event.target.value)}
        />
        <Choose<PartKind | "">
          label="Kind of part"
          value={kind}
          options={[
            ["", "all kinds"],
            ...Object.entries(KINDS).map(
              ([key, { many }]) => [key as PartKind, many.toLowerCase()] as const,
            ),
          ]}
          onChange={setKind}
        />
        <span className="text-soft text-sm" role="status">
          {rows.length} of {shelf.data.length} parts
        </span>
        <span className="flex-1" />
        <Button look="quiet" onClick={() => setOpen("import")}>
          Import CSV
        </Button>
        <a
          href="/api/shelf/parts.csv"
          download
          className="rounded px-2.5 py-1 text-sm hover:bg-river-wash"
        >
          Export CSV
        </a>
      </div>
      <div className="mt-2 flex flex-wrap items-center gap-2">
        {(Object.keys(KINDS) as PartKind[]).map((one) => (
          <Button key={one} onClick={() => setOpen({ start: reference.blanks[one], kept: null })}>
            + {KINDS[one].one}
          </Button>
        ))}
      </div>
      <Scroll label="Parts" className="mt-3">
        <table className="w-full min-w-190 text-sm">
          <thead>
            <tr className="border-line border-b text-left text-soft">
              {["Part", "Label", "Price", "Mass", "Source"].map((head) => (
                <th
                  key={head}
                  scope="col"
                  className={`py-1 pr-3 font-medium ${head === "Price" || head === "Mass" ? "text-right" : ""}`}
                >
                  {head}
                </th>
              ))}
              <th scope="col">
                <span className="sr-only">Actions</span>
              </th>
            </tr>
          </thead>
          <tbody>
            {rows.map((kept) => (
              <tr
                key={kept.id}
                className="border-line border-b align-top hover:bg-bench"
                data-shelf={kept.part.name}
              >
                <th scope="row" className="py-1.5 pr-3 text-left font-semibold">
                  {kept.part.name}
                  {kept.part.notes ? (
                    <span className="block font-normal text-soft text-xs">{kept.part.notes}</span>
                  ) : null}
                </th>
                <td className="py-1.5 pr-3">{describe(kept.part)}</td>
                <td className="py-1.5 pr-3 text-right">
                  {kept.part.price == null ? "–" : money(kept.part.price, 4)}
                </td>
                <td className="whitespace-nowrap py-1.5 pr-3 text-right">
                  {kept.part.mass_kg == null ? "–" : `${number(kept.part.mass_kg)} kg`}
                </td>
                <td className="py-1.5 pr-3">
                  <span className="tag">{kept.spread_from}</span>
                </td>
                <td className="whitespace-nowrap py-1 text-right">
                  <Button
                    look="quiet"
                    aria-label={`Edit ${kept.part.name}`}
                    onClick={() => setOpen({ start: kept.part, kept })}
                  >
                    Edit
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Duplicate ${kept.part.name}`}
                    onClick={() => duplicate(kept)}
                  >
                    Duplicate
                  </Button>
                  <Button
                    look="quiet"
                    aria-label={`Delete ${kept.part.name}`}
                    onClick={() => void remove(kept)}
                  >
                    Delete
                  </Button>
                </td>
              </tr>
            ))}
          </tbody>
        </table>
      </Scroll>
      {rows.length ? null : (
        <p className="mt-4 rounded border border-edge border-dashed p-4">
          {shelf.data.length
            ? "No part matches the filter."
            : "The shelf is empty. Add a part from its label, or import a CSV file."}
        </p>
      )}
      {open === "import" ? (
        <ImportDialog
          shelf={shelf.data}
          onTake={(good) => void takeRows(good)}
          onClose={() => setOpen(null)}
        />
      ) : open ? (
        <PartDialog {...open} reference={reference} onDone={done} onClose={() => setOpen(null)} />
      ) : null}
    </main>
  );
}
