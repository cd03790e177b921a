import { useInfiniteQuery, useQuery, useQueryClient } from "@tanstack/react-query";
import { type FormEvent, useState } from "react";
import { api } from "../api/client";
import type { HistoryEntry } from "../api/types";
import { useDesign } from "../design/store";
import { useNotice } from "../lib/notice";
import { Button } from "../ui/Button";
import { Choose } from "../ui/Choose";
import { Modal } from "../ui/Modal";
import { ChangesTable } from "./ChangesTable";

const PAGE = 40;

const timeOf = (at: string) =>
  new Date(at).toLocaleString(undefined, { dateStyle: "medium", timeStyle: "short" });

const titleOf = (one: HistoryEntry) => one.name ?? timeOf(one.saved_at);

/** Every saved version: when, what changed; look at one, compare two, restore, name. */
export default function HistoryDialog({ onClose }: { onClose: () => void }) {
  const id = useDesign((state) => state.id);
  const base = useDesign((state) => state.base);
  const [chosen, setChosen] = useState<number | null>(null);
  const history = useInfiniteQuery({
    queryKey: ["history", id, base],
    queryFn: ({ pageParam }) => api.revisions(id, pageParam, PAGE),
    initialPageParam: null as number | null,
    getNextPageParam: (last) => {
      const oldest = last.at(-1)?.number ?? 1;
      return oldest > 1 ? oldest : undefined;
    },
  });
  const entries = history.data?.pages.flat() ?? [];
  const shown = entries.find((one) => one.number === chosen) ?? null;
  return (
    <Modal title="History" name="history" wide onClose={onClose}>
      <div className="mt-3 grid grid-cols-1 gap-5 md:grid-cols-[20rem_minmax(0,1fr)]">
        <div className="max-h-[62vh] overflow-y-auto border-line md:border-r md:pr-3">
          {history.error ? <p className="text-sm text-stop">{history.error.message}</p> : null}
          <ol>
            {entries.map((one, at) => (
              <li key={one.number}>
                <button
                  type="button"
                  className="w-full rounded px-2 py-1.5 text-left text-sm hover:bg-river-wash aria-pressed:bg-river-wash"
                  aria-pressed={one.number === chosen}
                  onClick={() => setChosen(one.number)}
                  data-revision={one.number}
                >
                  <span className="flex justify-between gap-2">
                    <strong>{titleOf(one)}</strong>
                    <span className="text-soft">{at === 0 ? "newest" : `no. ${one.number}`}</span>
                  </span>
                  {one.name ? (
                    <span className="block text-soft">{timeOf(one.saved_at)}</span>
                  ) : null}
                  <span className="block text-soft text-xs">{one.what}</span>
                </button>
              </li>
            ))}
          </ol>
          {history.hasNextPage ? (
            <Button
              className="mt-2"
              onClick={() => void history.fetchNextPage()}
              disabled={history.isFetchingNextPage}
            >
              Older versions
            </Button>
          ) : null}
        </div>
        {shown ? (
          <Version key={shown.number} entry={shown} entries={entries} onClose={onClose} />
        ) : (
          <p className="text-soft text-sm">
            Each save keeps a version. Choose one to see what differs from the design now, to give
            it a name, or to restore it.
          </p>
        )}
      </div>
    </Modal>
  );
}

interface VersionProps {
  entry: HistoryEntry;
  entries: readonly HistoryEntry[];
  onClose: () => void;
}

/** One version against the design now or another version, and what can be done with it. */
function Version({ entry, entries, onClose }: VersionProps) {
  const id = useDesign((state) => state.id);
  const version = useDesign((state) => state.version);
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const [other, setOther] = useState("");
  const one = useRevision(id, entry.number);
  const two = useRevision(id, other ? Number(other) : null);
  const now = useDesign((state) => state.document);
  const against = other ? two.data?.document : now;
  const document = one.data?.document;
  const compared = useQuery({
    queryKey: ["changes", id, version, entry.number, other],
    queryFn: ({ signal }) => {
      if (!document || !against) throw new Error("nothing to compare");
      return api.changes(document, against, signal);
    },
    enabled: Boolean(document && against),
    gcTime: 5000,
  });
  const lasts = useQuery({
    queryKey: ["version lasts", id, entry.number],
    queryFn: ({ signal }) => {
      if (!document) throw new Error("nothing to work out");
      return api.evaluate(document, true, signal);
    },
    enabled: Boolean(document),
  });
  const restore = () => {
    if (!document) return;
    change(`restore the version of ${timeOf(entry.saved_at)}`, () => document);
    onClose();
    notify(`The version of ${timeOf(entry.saved_at)} is restored.`, { label: "Undo", act: undo });
  };
  const rest = entries.filter((one) => one.number !== entry.number);
  const verdict = lasts.data?.verdict;
  return (
    <div data-part="version">
      <h3 className="text-lg">{titleOf(entry)}</h3>
      <p className="text-sm">
        {verdict
          ? `${document?.name}: ${verdict.lasts}, ${verdict.meets_goal ? "meets the goal" : "short of the goal"}.`
          : "Working out how long it lasts …"}
      </p>
      <NameIt entry={entry} />
      <p className="mt-3 flex items-center gap-2 text-sm">
        Compare with
        <Choose
          label="Compare with"
          value={other}
          options={[
            ["", "the design now"],
            ...rest.map((one) => [String(one.number), titleOf(one)] as const),
          ]}
          onChange={setOther}
        />
      </p>
      <ChangesTable
        changes={compared.data ?? null}
        failed={one.error ?? two.error ?? compared.error}
        before="This version"
        after={other ? "The other" : "Now"}
      />
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Close</Button>
        <Button look="main" onClick={restore} disabled={!document}>
          Restore this version
        </Button>
      </div>
    </div>
  );
}

function useRevision(id: string, number: number | null) {
  return useQuery({
    queryKey: ["revision", id, number],
    queryFn: () => api.revision(id, number ?? 0),
    enabled: number !== null,
    staleTime: Number.POSITIVE_INFINITY,
  });
}

/** A name for a version that is worth finding again. */
function NameIt({ entry }: { entry: HistoryEntry }) {
  const id = useDesign((state) => state.id);
  const notify = useNotice((state) => state.notify);
  const queries = useQueryClient();
  const [name, setName] = useState(entry.name ?? "");
  const submit = async (event: FormEvent) => {
    event.preventDefault();
    try {
      await api.nameRevision(id, entry.number, name);
      await queries.invalidateQueries({ queryKey: ["history", id] });
    } catch (error) {
      notify(`Not named: ${(error as Error).message}`);
    }
  };
  return (
    <form className="mt-2 flex items-center gap-2 text-sm" onSubmit={(event) => void submit(event)}>
      <label className="flex items-center gap-2">
        Name of the version
        <input
          className="field w-56"
          value={name}
          maxLength={80}
          placeholder="before the tour"
          onChange={(event) => setName(event.target.value)}
        />
      </label>
      <Button type="submit" disabled={name.trim() === (entry.name ?? "")}>
        Name it
      </Button>
    </form>
  );
}
