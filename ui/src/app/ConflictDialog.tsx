import { useQueryClient } from "@tanstack/react-query";
import { compare } from "fast-json-patch";
import { AlertDialog } from "radix-ui";
import { useNavigate } from "react-router";
import { api } from "../api/client";
import type { Design } from "../api/types";
import { useDesign } from "../design/store";
import { useNotice } from "../lib/notice";
import { Button } from "../ui/Button";

const MAX_SHOWN = 6;

/** The same design was saved from elsewhere: both versions are offered, none is lost. */
export function ConflictDialog() {
  const { saving, document: mine, open, rebase } = useDesign();
  const notify = useNotice((state) => state.notify);
  const navigate = useNavigate();
  const queries = useQueryClient();
  if (saving.status !== "conflict" || !mine) return null;
  const { theirs } = saving;
  const lines = differences(theirs.document, mine);

  const keepBoth = async () => {
    try {
      const copy = await api.create({ ...mine, name: `${mine.name} (my copy)`.slice(0, 80) });
      open(theirs);
      await queries.invalidateQueries({ queryKey: ["designs"] });
      notify("Yours is kept as a design of its own.", {
        label: "Open it",
        act: () => navigate(`/d/${copy.id}/plan`),
      });
    } catch (error) {
      notify(`Not copied: ${(error as Error).message}`);
    }
  };

  return (
    <AlertDialog.Root open>
      <AlertDialog.Portal>
        <AlertDialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <AlertDialog.Content
          className="fixed top-1/2 left-1/2 z-50 max-h-[90vh] w-[min(36rem,94vw)] -translate-x-1/2 -translate-y-1/2 overflow-y-auto rounded-lg border border-edge bg-card p-5"
          data-dialog="conflict"
        >
          <AlertDialog.Title className="text-xl">
            This design was changed elsewhere
          </AlertDialog.Title>
          <AlertDialog.Description className="mt-2 text-sm">
            Another tab or window saved it at {new Date(theirs.saved_at).toLocaleTimeString()},
            while you were working here. Nothing is overwritten until you choose.
          </AlertDialog.Description>
          <table className="mt-3 w-full text-sm">
            <thead>
              <tr className="border-line border-b text-left text-soft">
                <th className="py-1 font-medium">What differs</th>
                <th className="font-medium">There</th>
                <th className="font-medium">Here</th>
              </tr>
            </thead>
            <tbody>
              {lines.slice(0, MAX_SHOWN).map((line) => (
                <tr key={line.what} className="border-line border-b align-top">
                  <th scope="row" className="py-1 pr-3 text-left font-normal">
                    {line.what}
                  </th>
                  <td className="pr-3">{line.theirs}</td>
                  <td>{line.mine}</td>
                </tr>
              ))}
            </tbody>
          </table>
          {lines.length > MAX_SHOWN ? (
            <p className="mt-1 text-soft text-sm">and {lines.length - MAX_SHOWN} more</p>
          ) : null}
          <div className="mt-4 flex flex-wrap justify-end gap-2">
            <Button onClick={() => open(theirs)}>Use the other version</Button>
            <Button onClick={() => rebase(theirs.revision)}>Keep my version</Button>
            <Button look="main" onClick={() => void keepBoth()}>
              Keep both
            </Button>
          </div>
        </AlertDialog.Content>
      </AlertDialog.Portal>
    </AlertDialog.Root>
  );
}

interface Difference {
  what: string;
  theirs: string;
  mine: string;
}

function differences(theirs: Design, mine: Design): Difference[] {
  return compare(theirs, mine).map((operation) => ({
    what: operation.path
      .slice(1)
      .replace(/^(loads)\/(\d+)/, (_, __, at) => mine.loads[Number(at)]?.name ?? `load ${at}`)
      .replace(/^stores\/0/, "bank")
      .replace(/^stages\/(\d+)/, (_, n) => `stage ${Number(n) + 1}`)
      .replaceAll("/", " · ")
      .replaceAll("_", " "),
    theirs: shown(at(theirs, operation.path)),
    mine: operation.op === "remove" ? "–" : shown(at(mine, operation.path)),
  }));
}

function at(document: unknown, path: string): unknown {
  let value: unknown = document;
  for (const step of path.split("/").slice(1)) {
    value = (value as Record<string, unknown> | undefined)?.[step];
  }
  return value;
}

function shown(value: unknown): string {
  if (value === undefined || value === null) return "–";
  if (typeof value === "object") return "name" in value ? String(value.name) : "…";
  return String(value);
}
