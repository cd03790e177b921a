import { SHORTCUTS } from "../lib/keys";
import { useSettings } from "../lib/settings";
import { Button } from "../ui/Button";
import { DocLinks } from "../ui/DocLinks";
import { Modal } from "../ui/Modal";

/** What keys do on a thing that has the focus: by its own kind, so that they are not switched off. */
const ON_FOCUS: readonly (readonly [string, string])[] = [
  ["← → ↑ ↓", "on the drawing: to its supply, its loads, the previous, the next"],
  ["Enter, Space", "on a part of the drawing: open it; on a figure: show its working"],
  ["Enter", "in quick entry: add the load that was read; in a number: use it now"],
  ["↑ ↓", "in a number: a step more or less"],
  ["Esc", "close what is open; in a number: leave it as it was"],
];

const PLACES = ["Everywhere", "On the Plan"] as const;

/** All keys. */
export default function KeysDialog({ onClose }: { onClose: () => void }) {
  const letterKeys = useSettings((state) => state.letterKeys);
  const set = useSettings((state) => state.set);
  return (
    <Modal title="Keys" name="keys" onClose={onClose}>
      {PLACES.map((place) => (
        <List
          key={place}
          title={place}
          keys={Object.values(SHORTCUTS)
            .filter((one) => one.where === place)
            .map((one) => [one.shown, one.what] as const)}
        />
      ))}
      <List title="On what has the focus" keys={ON_FOCUS} />
      <label className="mt-3 flex items-center gap-2 text-sm">
        <input
          type="checkbox"
          className="size-4 accent-river"
          checked={letterKeys}
          onChange={(event) => set({ letterKeys: event.target.checked })}
        />
        Keys without Ctrl are on
      </label>
      <div className="mt-4 flex items-center justify-between">
        <DocLinks />
        <Button onClick={onClose}>Close</Button>
      </div>
    </Modal>
  );
}

function List({ title, keys }: { title: string; keys: readonly (readonly [string, string])[] }) {
  return (
    <section className="mt-3">
      <h3 className="font-semibold text-sm">{title}</h3>
      <dl className="mt-1 grid grid-cols-[auto_1fr] gap-x-5 gap-y-1 text-sm">
        {keys.map(([key, what]) => (
          <div key={`${key} ${what}`} className="contents">
            <dt>
              <kbd className="rounded border border-edge bg-bench px-1.5 font-text">{key}</kbd>
            </dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </section>
  );
}
