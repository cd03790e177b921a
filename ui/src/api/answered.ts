import type { ProblemDetails, Stored } from "./types";

/** An error the server explained, as problem details (RFC 9457). */
export class Refused extends Error {
  constructor(readonly problem: ProblemDetails) {
    super(problem.detail);
  }
}

/** Somebody saved in between; `current` is what stands there now. */
export class Conflict extends Refused {
  constructor(
    problem: ProblemDetails,
    readonly current: Stored,
  ) {
    super(problem);
  }
}

/** The server did not answer at all. */
export class Unreachable extends Error {
  constructor() {
    super("The server does not answer. Is bin/start still running?");
  }
}

/** The server took too long. */
export class Late extends Error {
  constructor() {
    super("The server took too long to answer.");
  }
}

export type Answer<T> = { data?: T; error?: unknown; response: Response };

/** What was answered, or the error that it is. */
export async function taken<T>(call: Promise<Answer<T>>): Promise<T> {
  let answer: Answer<T>;
  try {
    answer = await call;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    if (error instanceof DOMException && error.name === "TimeoutError") throw new Late();
    throw new Unreachable();
  }
  if (answer.response.ok) return answer.data as T;
  const problem = answer.error as ProblemDetails & { current?: Stored };
  if (!problem?.code) throw new Unreachable();
  if (problem.code === "stale_revision" && problem.current) {
    throw new Conflict(problem, problem.current);
  }
  throw new Refused(problem);
}

/** Whole lines of a stream, one after the other. */
export async function readLines(
  stream: ReadableStream<Uint8Array>,
  onLine: (text: string) => void,
) {
  const reader = stream.getReader();
  const decoder = new TextDecoder();
  let rest = "";
  for (;;) {
    const { done, value } = await reader.read();
    if (done) return;
    const lines = (rest + decoder.decode(value, { stream: true })).split("\n");
    rest = lines.pop() ?? "";
    for (const line of lines) if (line) onLine(line);
  }
}
