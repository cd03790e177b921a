import { useCallback } from "react";
import type { Load, LoadRow } from "../../api/types";
import { addLoad, duplicateLoad, inverterKey, removeLoads } from "../../design/edits";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { FigureButton } from "../../editor/FigureButton";
import { useNotice } from "../../lib/notice";
import { Button } from "../../ui/Button";
import { Scroll } from "../../ui/Scroll";
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
  "Source",
  "Must run",
  "",
];
const RIGHT = new Set(["Count", "Each", "Start", "A day", "Duty", "At the bank"]);

/** Everything that has to run: quick entry and the table. */
export function LoadsPanel() {
  const { evaluation, reference } = useWorked();
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const { opened, openLoad, chosen, choose, ask } = usePlan();
  const toggle = useCallback(
    (id: string) => openLoad(usePlan.getState().opened === id ? null : id),
    [openLoad],
  );
  const tick = useCallback(
    (id: string, on: boolean) => {
      const now = usePlan.getState().chosen.filter((one) => one !== id);
      choose(on ? [...now, id] : now);
    },
    [choose],
  );
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  if (!design) return null;
  const rows = new Map<string, LoadRow>(evaluation.loads.map((row) => [row.id, row]));
  const remove = () => {
    change("delete loads", (d) => removeLoads(d, chosen));
    notify(`Deleted ${loadsInWords(chosen.length)}.`, { label: "Undo", act: undo });
    choose([]);
  };
  const all = chosen.length === design.loads.length;
  const add = () => change("add a load", (now) => addLoad(now, reference.blank_load));
  return (
    <div>
      <p className="flex flex-wrap gap-x-2 text-soft text-sm">
        <span>{loadsInWords(design.loads.length)}</span>·
        <span>
          <FigureButton of="day.wh" />
          {evaluation.figures["day.ah"] ? (
            <>
              , <FigureButton of="day.ah" />
            </>
          ) : null}{" "}
          a day at the bank
        </span>
        ·
        <span>
          running together <FigureButton of={inverterKey(design, "running_w")} />
        </span>
        ·
        <span>
          highest start <FigureButton of={inverterKey(design, "worst_start_w")} />
        </span>
      </p>
      <QuickEntry />
      {design.loads.length ? (
        <Scroll label="Loads">
          <table className="w-full min-w-215 text-sm">
            <thead>
              <tr className="border-line border-b text-soft">
                <th scope="col" className="w-7">
                  <input
                    type="checkbox"
                    className="size-4 accent-river align-middle"
                    aria-label="Choose all loads"
                    checked={all}
                    onChange={() => choose(all ? [] : design.loads.map((load) => load.id))}
                  />
                </th>
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
                  open={opened === load.id}
                  chosen={chosen.includes(load.id)}
                  onChoose={tick}
                  onToggle={toggle}
                />
              ))}
            </tbody>
          </table>
        </Scroll>
      ) : (
        <p className="my-4 max-w-140 rounded border border-edge border-dashed p-4">
          Nothing has to run yet. Read the first nameplate and type it above, with how long it runs
          a day: that is where every design starts.
        </p>
      )}
      <p className="no-print mt-2 flex flex-wrap items-center gap-2">
        <Button look="quiet" onClick={add}>
          + Add an empty row
        </Button>
        {chosen.length ? (
          <>
            <span className="text-sm" role="status">
              {chosen.length} chosen:
            </span>
            <Button onClick={() => ask({ what: "move", loads: chosen })}>Move to a rail…</Button>
            <Button
              onClick={() => change("duplicate loads", (d) => chosen.reduce(duplicateLoad, d))}
            >
              Duplicate
            </Button>
            <Button look="danger" onClick={remove}>
              Delete
            </Button>
            <Button look="quiet" onClick={() => choose([])}>
              None
            </Button>
          </>
        ) : null}
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

const loadsInWords = (count: number) => (count === 1 ? "1 load" : `${count} loads`);
