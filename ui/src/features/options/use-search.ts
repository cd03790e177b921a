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

/** Whether one is no worse than another in all that is weighed, and not the same. */
function beats(one: Found, other: Found): boolean {
  const weighed = (x: Found) => [
    x.price ?? Number.POSITIVE_INFINITY,
    x.mass_kg ?? Number.POSITIVE_INFINITY,
    -(x.hours ?? Number.POSITIVE_INFINITY),
    x.boxes,
  ];
  const [a, b] = [weighed(one), weighed(other)];
  return a.every((value, at) => value <= (b[at] ?? 0));
}

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
            found = [...found.filter((one) => !beats(next, one)), next];
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
