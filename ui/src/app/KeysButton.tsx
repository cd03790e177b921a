import { lazy, Suspense, useState } from "react";
import { useShortcuts } from "../lib/keys";

const KeysDialog = lazy(() => import("./KeysDialog"));

/** Opens the list of keys, as `?` does. */
export function KeysButton() {
  const [open, setOpen] = useState(false);
  useShortcuts({ keys: () => setOpen(true) });
  return (
    <>
      <button
        type="button"
        className="rounded px-2 py-1 text-sm hover:bg-river-wash"
        aria-label="Keys"
        aria-haspopup="dialog"
        onClick={() => setOpen(true)}
      >
        ?
      </button>
      {open ? (
        <Suspense fallback={null}>
          <KeysDialog onClose={() => setOpen(false)} />
        </Suspense>
      ) : null}
    </>
  );
}
