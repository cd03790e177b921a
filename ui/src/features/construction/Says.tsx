import type { Built } from "../../api/types";

/** What would happen, or why it cannot. */
export function Says({ built, refused }: { built: Built | null; refused: string | null }) {
  return (
    <div className="mt-3 min-h-6 text-sm" aria-live="polite" data-part="says">
      {refused ? <p className="text-stop">{refused}</p> : null}
      {built?.says.map((line) => (
        <p key={line}>{line}</p>
      ))}
    </div>
  );
}
