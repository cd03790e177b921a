import { useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { Refused } from "../api/client";
import type { Design } from "../api/types";
import { reasonInWords } from "./place-words";
import { type Stamp, type Stamped, sameStamp } from "./stamp";
import { stampNow, useDesign } from "./store";

/** How an answer stands to the design on screen. */
export type Standing =
  | { status: "fresh" }
  | { status: "updating" }
  /** It could not be had anew; `why` says so in a sentence. */
  | { status: "stale"; why: string };

export interface Answer<T> {
  /** The newest answer for this design, or null. It may be for an earlier version: see `standing`. */
  data: T | null;
  stamp: Stamp | null;
  standing: Standing;
  /** What went wrong for the design as it is now. */
  error: Error | null;
  retry: () => void;
}

interface AnswerOptions {
  /** What is asked besides the design; another one is another question. */
  key?: readonly unknown[];
  enabled?: boolean;
  /** Give it up as soon as the design has changed: long work that only the newest answer is worth. */
  givenUp?: boolean;
}

/** Whether asking again can help: the server was away or slow, or failed of its own. */
export const isPassing = (error: Error): boolean =>
  !(error instanceof Refused) || error.problem.status >= 500;

/** What is under way, by what is asked. */
const underway = new Map<string, Promise<unknown>>();
const NEVER = new AbortController().signal;

/**
 * Ask once the same question's last answer is there: one is under way and one waits, however fast
 * a person types. What became obsolete while it waited is never asked.
 */
async function inTurn<T>(name: string, signal: AbortSignal, ask: () => Promise<T>): Promise<T> {
  for (let busy = underway.get(name); busy; busy = underway.get(name)) {
    await busy;
    signal.throwIfAborted();
  }
  const asked = ask();
  const done: Promise<unknown> = asked
    .catch(() => undefined)
    .finally(() => {
      if (underway.get(name) === done) underway.delete(name);
    });
  underway.set(name, done);
  return asked;
}

// Always the same objects: what shows a standing is drawn anew only when it changes.
const FRESH: Standing = { status: "fresh" };
const UPDATING: Standing = { status: "updating" };
const MAX_RETRIES = 1000;
const RETRY_MS = 1000;

/**
 * Something the server works out for the design as it is now, stamped with what it was made for.
 * The answer before stays until the new one is there, and says that it is not new; of another
 * design nothing stays.
 */
export function useAnswer<T>(
  name: string,
  ask: (design: Design, signal: AbortSignal) => Promise<T>,
  { key = [], enabled = true, givenUp = false }: AnswerOptions = {},
): Answer<T> {
  const id = useDesign((state) => state.id);
  const version = useDesign((state) => state.version);
  const query = useQuery({
    queryKey: [name, id, version, ...key],
    queryFn: async ({ signal }): Promise<Stamped<T>> => {
      return inTurn(name, signal, async () => {
        const { document } = useDesign.getState();
        if (!document) throw new Error("no design is open");
        const stamp = stampNow();
        return { data: await ask(document, givenUp ? signal : NEVER), stamp };
      });
    },
    enabled: enabled && id !== "",
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 10_000,
    retry: (count, failure) => isPassing(failure) && count < MAX_RETRIES,
    retryDelay: RETRY_MS,
  });
  const now = { design: id, version };
  const current = query.data && sameStamp(query.data.stamp, now) ? query.data : null;
  const last = useLast(current, id);
  const error = query.error ?? query.failureReason;
  return {
    data: last?.data ?? null,
    stamp: last?.stamp ?? null,
    standing: current ? FRESH : error ? { status: "stale", why: whyNot(error) } : UPDATING,
    error: current ? null : error,
    retry: () => void query.refetch(),
  };
}

const whyNot = (error: Error) => reasonInWords(error, useDesign.getState().document);

/** The newest answer there was for this design; also while nothing is asked. */
function useLast<T>(current: Stamped<T> | null, id: string): Stamped<T> | null {
  const [last, setLast] = useState<Stamped<T> | null>(null);
  if (current && current !== last) {
    setLast(current);
    return current;
  }
  return last?.stamp.design === id ? last : null;
}
