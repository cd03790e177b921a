import type { Built } from "../../api/types";

interface SaysProps {
  built: Built | null;
  /** Whether it is the answer to what was asked before: it is shown pale until the new one. */
  stale: boolean;
  refused: string | null;
}

/** What would happen, or why it cannot. */
export function Says({ built, stale, refused }: SaysProps) {
  return (
    <div
      className={`mt-3 min-h-6 text-sm ${stale && built ? "opacity-50" : ""}`}
      aria-live="polite"
      data-part="says"
      data-stale={stale}
    >
      {refused ? <p className="text-stop">{refused}</p> : null}
      {built?.says.map((line) => (
        <p key={line}>{line}</p>
      ))}
    </div>
  );
}
