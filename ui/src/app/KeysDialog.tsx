import { Dialog } from "radix-ui";
import { useEffect, useState } from "react";
import { PANELS } from "../design/panels";
import { Button } from "../ui/Button";
import { DocLinks } from "../ui/DocLinks";

const KEYS: readonly (readonly [string, string])[] = [
  ["/", "to quick entry"],
  ["Enter", "in quick entry: add the load that was read"],
  ...PANELS.map(([, title, key]) => [key, `open ${title}`] as const),
  ["← → ↑ ↓", "on the drawing: to its supply, its loads, the previous, the next"],
  ["a", "add a rail or an inverter to what is selected"],
  ["l", "connect power to a station"],
  ["m", "move the chosen loads, or the selected one, to another rail"],
  ["r", "put a regulator before the selected load"],
  ["Delete", "remove what is selected"],
  ["↑ ↓", "in a number: a step more or less"],
  ["Ctrl Z", "undo"],
  ["Ctrl Shift Z", "redo"],
  ["Enter, Space", "on a part of the drawing: open it; on a figure: show its working"],
  ["Esc", "close what is open"],
  ["?", "this list"],
];

/** All keys, on `?`. */
export function KeysDialog() {
  const [open, setOpen] = useState(false);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target;
      if (
        event.key !== "?" ||
        (target instanceof HTMLElement && target.matches("input, textarea"))
      ) {
        return;
      }
      setOpen(true);
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);
  return (
    <Dialog.Root open={open} onOpenChange={setOpen}>
      <Dialog.Trigger className="rounded px-2 py-1 text-sm hover:bg-river-wash" aria-label="Keys">
        ?
      </Dialog.Trigger>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-black/40" />
        <Dialog.Content
          className="fixed top-1/2 left-1/2 z-50 w-[min(32rem,94vw)] -translate-x-1/2 -translate-y-1/2 rounded-lg border border-edge bg-card p-5"
          aria-describedby={undefined}
        >
          <Dialog.Title className="text-xl">Keys</Dialog.Title>
          <dl className="mt-3 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1.5 text-sm">
            {KEYS.map(([key, what]) => (
              <div key={key} className="contents">
                <dt>
                  <kbd className="rounded border border-edge bg-bench px-1.5 font-text">{key}</kbd>
                </dt>
                <dd>{what}</dd>
              </div>
            ))}
          </dl>
          <div className="mt-4 flex items-center justify-between">
            <DocLinks />
            <Dialog.Close asChild>
              <Button>Close</Button>
            </Dialog.Close>
          </div>
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}
