import { useCallback, useEffect, useRef, useState } from "react";
import { api } from "../../api/client";
import type { Found, SearchBody, Searched } from "../../api/types";

/** A search as it stands: what was found so far, and its end. */
export type Search =
  | { status: "idle" }
  | { status: "running"; done: number; candidates: number; found: readonly Found[] }
  | { status: "stopped"; candidates: number; found: readonly Found[] }
  | { status: "failed"; reason: string }
  | { status: "done"; searched: Searched };

/** Starts a search, hands on what it finds, and stops it with the page. */
export function useSearch() {
  const [search, setSearch] = useState<Search>({ status: "idle" });
  const control = useRef<AbortController | null>(null);
  const start = useCallback(async (body: SearchBody) => {
    control.current?.abort();
    const mine = new AbortController();
    control.current = mine;
    let found: readonly Found[] = [];
    let candidates = 0;
    setSearch({ status: "running", done: 0, candidates, found });
    try {
      await api.search(
        body,
        (line) => {
          if (mine.signal.aborted) return;
          if (line.found) {
            const next = line.found;
            const beaten = new Set(line.beaten);
            found = [...found.filter((one) => !beaten.has(one.key)), next];
          }
          if (line.progress) candidates = line.progress.candidates;
          const done = line.progress ? line.progress.tried / line.progress.total : null;
          if (line.searched) setSearch({ status: "done", searched: line.searched });
          else {
            setSearch((now) => ({
              status: "running",
              done: done ?? (now.status === "running" ? now.done : 0),
              candidates,
              found,
            }));
          }
        },
        mine.signal,
      );
    } catch (error) {
      if (mine.signal.aborted) return;
      setSearch({ status: "failed", reason: (error as Error).message });
    }
  }, []);
  const stop = useCallback(() => {
    control.current?.abort();
    setSearch((now) =>
      now.status === "running"
        ? { status: "stopped", candidates: now.candidates, found: now.found }
        : now,
    );
  }, []);
  useEffect(() => () => control.current?.abort(), []);
  return { search, start, stop };
}
