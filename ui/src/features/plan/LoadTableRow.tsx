import { lazy, memo, Suspense } from "react";
import type { Load } from "../../api/types";
import { duplicateLoad, moveLoad, removeLoads, withLoad } from "../../design/edits";
import { PROVENANCES } from "../../design/labels";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { hoursOf, withHours } from "../../design/when";
import { FigureButton } from "../../editor/FigureButton";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { useNotice } from "../../lib/notice";
import { stoneOf } from "../../pictures/stones";
import { Choose } from "../../ui/Choose";
import { Menu } from "../../ui/Menu";
import { useBuildNow } from "../construction/use-build";
import type { LoadFieldProps } from "./load-field-props";

const LoadDetails = lazy(() => import("./later").then((all) => ({ default: all.LoadDetails })));

interface LoadTableRowProps {
  load: Load;
  index: number;
  runs: boolean;
  open: boolean;
  chosen: boolean;
  onToggle: (id: string) => void;
  onChoose: (id: string, on: boolean) => void;
}

/** A load: its usual fields in place, the others below when opened. */
export const LoadTableRow = memo(function LoadTableRow(props: LoadTableRowProps) {
  const { load, index, runs, open, chosen, onToggle, onChoose } = props;
  const change = useDesign((state) => state.change);
  const buildNow = useBuildNow();
  const path = (field: string) => `/loads/${index}/${field}`;
  const set = (field: string, part: Partial<Load>) =>
    change(`${load.name}: ${field}`, (d) => withLoad(d, load.id, part), `${load.id}.${field}`);
  return (
    <>
      <tr className="border-line border-b align-middle" data-load={load.id}>
        <td>
          <input
            type="checkbox"
            className="size-4 accent-river align-middle"
            aria-label={`Choose ${load.name}`}
            checked={chosen}
            onChange={(event) => onChoose(load.id, event.target.checked)}
          />
        </td>
        <td className="min-w-40 py-0.5">
          <span className="flex items-center gap-1.5">
            <span
              aria-hidden="true"
              className="size-3 shrink-0 rounded-full"
              style={{ background: stoneOf(index) }}
            />
            <TextField
              label={`Name of load ${index + 1}`}
              value={load.name}
              path={path("name")}
              onChange={(name) => set("name", { name })}
            />
          </span>
        </td>
        <td className="text-right">
          <NumberField
            label={`${load.name}: count`}
            as="whole"
            width="w-12"
            value={load.count}
            path={path("count")}
            onChange={(count) => set("count", { count })}
          />
        </td>
        <td className="whitespace-nowrap">
          <NumberField
            label={`${load.name}: volts`}
            width="w-13"
            value={load.supply.volts}
            path={path("supply/volts")}
            onChange={(volts) => set("volts", { supply: { ...load.supply, volts } })}
          />
          <Choose
            label={`${load.name}: AC or DC`}
            value={load.supply.kind}
            options={[
              ["ac", "V AC"],
              ["dc", "V DC"],
            ]}
            onChange={(kind) => void buildNow({ ask: "supply", load: load.id, kind })}
          />
        </td>
        <td className="whitespace-nowrap text-right">
          <Power load={load} path={path} set={set} />
        </td>
        <td className="pl-3 text-right">
          <FigureButton of={`load.${load.id}.start`} />
        </td>
        <td className="text-right">
          <NumberField
            label={`${load.name}: time a day`}
            as="hours"
            value={hoursOf(load.when)}
            path={path("when/hours")}
            onChange={(hours) => set("time", { when: withHours(load.when, hours) })}
          />
          {load.once ? <span className="block text-soft text-xs">once</span> : null}
        </td>
        <td className="text-right">
          <NumberField
            label={`${load.name}: duty`}
            as="share"
            width="w-12"
            unit="%"
            value={load.duty}
            path={path("duty")}
            onChange={(duty) => set("duty", { duty })}
          />
        </td>
        <td className="text-right font-semibold">
          {runs ? (
            <>
              <FigureButton of={`load.${load.id}.at_bank`} />
              <Ah load={load.id} />
            </>
          ) : (
            <span className="text-fix">cannot run</span>
          )}
        </td>
        <td>
          <Choose
            label={`${load.name}: source`}
            value={load.provenance}
            options={PROVENANCES}
            onChange={(provenance) => set("source", { provenance })}
          />
        </td>
        <td className="text-center">
          <input
            type="checkbox"
            className="size-4 accent-river"
            aria-label={`${load.name} must not stop`}
            checked={load.priority === "must"}
            onChange={(event) => set("must", { priority: event.target.checked ? "must" : "nice" })}
          />
        </td>
        <td className="whitespace-nowrap text-right">
          <button
            type="button"
            className="rounded px-1.5 text-river text-xs underline"
            aria-expanded={open}
            aria-label={`${load.name}: ${open ? "less" : "more"}`}
            onClick={() => onToggle(load.id)}
          >
            {open ? "less" : "more"}
          </button>
          <RowMenu load={load} />
        </td>
      </tr>
      {open ? (
        <tr className="border-line border-b bg-bench">
          <td colSpan={12} className="p-3">
            <Suspense fallback={null}>
              <LoadDetails load={load} path={path} set={set} />
            </Suspense>
          </td>
        </tr>
      ) : null}
    </>
  );
});

/** The same in amp-hours, of a single bank. */
function Ah({ load }: { load: string }) {
  const { evaluation } = useWorked();
  const key = `load.${load}.ah`;
  return evaluation.figures[key] ? (
    <span className="block font-normal text-soft text-xs">
      <FigureButton of={key} />
    </span>
  ) : null;
}

/** Watts, amps or Wh, whichever the label gives; the details choose which. */
function Power({ load, path, set }: LoadFieldProps) {
  const { demand } = load;
  if (demand.kind === "amps") {
    return (
      <NumberField
        label={`${load.name}: amps`}
        width="w-16"
        unit="A"
        value={demand.amps}
        path={path("demand/amps")}
        onChange={(amps) => set("amps", { demand: { kind: "amps", amps } })}
      />
    );
  }
  if (demand.kind === "energy") {
    return (
      <NumberField
        label={`${load.name}: energy a day`}
        width="w-16"
        unit="Wh"
        value={demand.wh}
        path={path("demand/wh")}
        onChange={(wh) => set("energy", { demand: { kind: "energy", wh } })}
      />
    );
  }
  return (
    <NumberField
      label={`${load.name}: watts`}
      width="w-16"
      unit="W"
      value={demand.watts}
      path={path("demand/watts")}
      onChange={(watts) => set("watts", { demand: { kind: "watts", watts } })}
    />
  );
}

/** What can be done with a load. Drawn anew only when the load or the rails change. */
const RowMenu = memo(function RowMenu({ load }: { load: Load }) {
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const ask = usePlan((state) => state.ask);
  const buildNow = useBuildNow();
  const remove = () => {
    change(`delete ${load.name}`, (d) => removeLoads(d, [load.id]));
    notify(`Deleted ${load.name}.`, { label: "Undo", act: undo });
  };
  const regulator = {
    text: "Put a regulator before it",
    onSelect: () => void buildNow({ ask: "regulator", before: load.id }),
  };
  const order = (word: string, by: number) => ({
    text: `Move ${word}`,
    onSelect: () => change(`move ${load.name} ${word}`, (d) => moveLoad(d, load.id, by)),
  });
  return (
    <Menu
      label={`${load.name}: actions`}
      className="rounded px-1.5 hover:bg-river-wash"
      align="end"
      items={[
        {
          text: "Duplicate",
          onSelect: () => change(`duplicate ${load.name}`, (d) => duplicateLoad(d, load.id)),
        },
        {
          text: "Move to a rail…",
          onSelect: () => ask({ what: "move", loads: [load.id] }),
        },
        ...(load.supply.kind === "dc" ? [regulator] : []),
        order("up", -1),
        order("down", 1),
        { text: "Delete", onSelect: remove, removes: true },
      ]}
    />
  );
});
