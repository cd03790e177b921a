import { useCallback, useState } from "react";
import type { Load, LoadRow } from "../api/types";
import { addLoad, inverterKey } from "../design/edits";
import { useDesign } from "../design/store";
import { useWorked } from "../design/use-evaluation";
import { Button } from "../parts/Button";
import { FigureButton } from "../parts/FigureButton";
import { LoadTableRow } from "./LoadTableRow";
import { QuickEntry } from "./QuickEntry";

const HEADS = [
  "Load",
  "Count",
  "Supply",
  "Each",
  "Start",
  "A day",
  "Duty",
  "At the bank",
  "Known from",
  "Must",
  "",
];
const RIGHT = new Set(["Count", "Each", "Start", "A day", "Duty", "At the bank"]);

/** Everything that has to run: quick entry and the table. */
export function LoadsPanel() {
  const { evaluation, reference } = useWorked();
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const [open, setOpen] = useState<string | null>(null);
  const toggle = useCallback((id: string) => setOpen((now) => (now === id ? null : id)), []);
  if (!design) return null;
  const rows = new Map<string, LoadRow>(evaluation.loads.map((row) => [row.id, row]));
  const add = () => change("add a load", (now) => addLoad(now, reference.blank_load));
  return (
    <div>
      <p className="flex flex-wrap gap-x-2 text-soft text-sm">
        <span>{design.loads.length} loads</span>·
        <span>
          <FigureButton of="day.wh" /> a day at the bank
        </span>
        ·
        <span>
          running together <FigureButton of={inverterKey(design, "running_w")} />
        </span>
        ·
        <span>
          worst start <FigureButton of={inverterKey(design, "worst_start_w")} />
        </span>
      </p>
      <QuickEntry />
      {design.loads.length ? (
        <div className="relative overflow-x-auto">
          <table className="w-full min-w-215 text-sm">
            <thead>
              <tr className="border-line border-b text-soft">
                {HEADS.map((head) => (
                  <th
                    key={head}
                    scope="col"
                    className={`px-1 py-1.5 font-medium ${RIGHT.has(head) ? "text-right" : "text-left"}`}
                  >
                    {head || <span className="sr-only">Actions</span>}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {design.loads.map((load: Load, index: number) => (
                <LoadTableRow
                  key={load.id}
                  load={load}
                  index={index}
                  runs={rows.get(load.id)?.at_bank_wh != null}
                  open={open === load.id}
                  onToggle={toggle}
                />
              ))}
            </tbody>
          </table>
        </div>
      ) : (
        <p className="my-4 max-w-140 rounded border border-edge border-dashed p-4">
          Nothing has to run yet. Read the first nameplate and type it above, with how long it runs
          a day: that is where every design starts.
        </p>
      )}
      <p className="mt-2">
        <Button look="quiet" onClick={add}>
          + Add an empty row
        </Button>
      </p>
      <Notes />
    </div>
  );
}

/** Free words kept with the design. */
function Notes() {
  const notes = useDesign((state) => state.document?.notes ?? "");
  const change = useDesign((state) => state.change);
  const seal = useDesign((state) => state.seal);
  return (
    <label className="mt-3 block max-w-160">
      <span className="text-soft text-sm">Notes</span>
      <textarea
        className="field mt-1 block w-full"
        rows={2}
        maxLength={4000}
        value={notes}
        onChange={(event) => change("notes", (d) => ({ ...d, notes: event.target.value }), "notes")}
        onBlur={seal}
      />
    </label>
  );
}
