import type { ReactNode } from "react";
import type { Answer } from "../design/use-answer";
import { Failed, Loading } from "../ui/States";

interface AnsweredProps<T> {
  answer: Answer<T>;
  /** What is under way, while there is no answer yet. */
  loading: string;
  /** What could not be had, as a title. */
  failed: string;
  children: (data: T) => ReactNode;
}

/** An answer of the server in each of its states; one that is not new looks so, and says why. */
export function Answered<T>({ answer, loading, failed, children }: AnsweredProps<T>) {
  const { data, standing, error, retry } = answer;
  if (data === null) {
    return error && standing.status === "stale" ? (
      <Failed within title={failed} reason={standing.why} onRetry={retry} />
    ) : (
      <Loading what={loading} />
    );
  }
  return (
    <div data-answer={standing.status}>
      {standing.status === "stale" ? (
        <p role="alert" className="my-1 text-sm text-stop">
          <strong>Out of date.</strong> {standing.why}
        </p>
      ) : null}
      {children(data)}
    </div>
  );
}
