import { useMemo, useState } from "react";
import type { Design, Found, Searched } from "../../api/types";
import { useDesign } from "../../design/store";
import { NumberField } from "../../editor/NumberField";
import { hours, number, quantity } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { money } from "../../lib/own-units";
import { Button } from "../../ui/Button";
import { Tick } from "../../ui/Tick";
import { GoalWords } from "../plan/GoalWords";
import { Cloud } from "./Cloud";
import { InWords, PICKS, systemOf } from "./InWords";
import { OwnedList } from "./OwnedList";
import { useSearch } from "./use-search";

/** Size it for me: whole systems from the shelf that break no rule, none beaten in everything. */
export function SizeIt() {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const { search, start, stop } = useSearch();
  const [most, setMost] = useState<number | null>(null);
  const [reserve, setReserve] = useState<number | null>(null);
  const [refill, setRefill] = useState(true);
  const [stations, setStations] = useState(true);
  const [chosen, setChosen] = useState<string | null>(null);
  if (!design) return null;
  const goal = design.goal;
  const sources = design.stores.filter(
    (store) =>
      store.kind !== "bank" &&
      store.kind !== "station" &&
      design.links.some((link) => link.rail === store.id && link.charger),
  );
  const counts = refill && sources.length > 0;
  const begin = () => void start({ design, most_strings: most, reserve, refill, stations });
  return (
    <div>
      <div className="mb-2">
        <GoalWords onRefill={setRefill} />
      </div>
      <div className="flex flex-wrap items-center gap-x-5 gap-y-2 text-sm">
        <span className="flex items-center gap-1.5">
          Last
          <NumberField
            label="Goal"
            as="hours"
            width="w-20"
            value={goal.hours}
            path="/goal/hours"
            onChange={(value) =>
              change("goal", (d) => ({ ...d, goal: { ...d.goal, hours: value } }), "goal")
            }
          />
          {counts ? "with refill" : "without recharging"}, {quantity(goal.ageing_margin, "share")}{" "}
          aged, {quantity(goal.guess_margin, "share")} more used
        </span>
        <span className="flex items-center gap-1.5">
          At most
          <NumberField
            label="Most in parallel"
            as="whole"
            width="w-12"
            value={most}
            path="/most_strings"
            placeholder="4"
            onChange={(value) => setMost(Math.min(Math.max(Math.round(value), 1), 32))}
            onClear={() => setMost(null)}
          />
          in parallel; empty: as the maker allows, or 4
        </span>
        <span className="flex items-center gap-1.5">
          reserve
          <NumberField
            label="Reserve"
            as="share"
            unit="%"
            width="w-20"
            placeholder="by kind"
            value={reserve}
            path="/reserve"
            onChange={setReserve}
            onClear={() => setReserve(null)}
          />
        </span>
        {sources.length ? (
          <span className="flex items-center gap-1.5">
            <Tick label="Count refill" checked={refill} onChange={setRefill} />
            count refill: {sources.map((store) => store.name).join(", ")}
          </span>
        ) : null}
        <span className="flex items-center gap-1.5">
          <Tick label="Try stations" checked={stations} onChange={setStations} />
          power stations too
        </span>
        {search.status === "running" ? (
          <Button look="danger" onClick={stop} data-part="stop">
            Stop
          </Button>
        ) : (
          <Button look="main" onClick={begin}>
            {search.status === "idle" ? "Size it for me" : "Search again"}
          </Button>
        )}
      </div>
      <OwnedList />
      <Status search={search} />
      {search.status === "running" || search.status === "stopped" ? (
        <Results
          design={design}
          best={search.found}
          searched={null}
          chosen={chosen}
          onChoose={setChosen}
        />
      ) : null}
      {search.status === "done" ? (
        <Results
          design={design}
          best={search.searched.best}
          searched={search.searched}
          chosen={chosen}
          onChoose={setChosen}
        />
      ) : null}
    </div>
  );
}

function Status({ search }: { search: ReturnType<typeof useSearch>["search"] }) {
  switch (search.status) {
    case "idle":
      return (
        <p className="my-4 max-w-150 rounded border border-edge border-dashed p-4 text-sm">
          Every battery of the shelf at 12, 24 and 48 V, every inverter, converters for each DC
          voltage or all through mains; every station, alone and fed by a battery. Each whole system
          runs through your own hours. What breaks a rule is rejected; so is one that another one
          beats in price, mass, hours, boxes and Wh lost a day.
        </p>
      );
    case "running":
      return (
        <p className="my-3 flex items-center gap-3 text-sm" aria-live="polite">
          <progress className="w-60 accent-river" value={search.done} aria-label="How far it is" />
          {search.done || search.candidates
            ? `${number(search.candidates, 6)} systems checked, ${search.found.length} best so far`
            : "waking the workers …"}
        </p>
      );
    case "stopped":
      return (
        <p className="my-3 text-sm" data-part="stopped">
          Stopped after {number(search.candidates, 6)} systems. What follows is the best so far; it
          may not be the best there is.
        </p>
      );
    case "failed":
      return (
        <p role="alert" className="my-3 text-sm text-stop">
          {search.reason}
        </p>
      );
    default:
      return (
        <p className="my-3 text-sm" data-part="done">
          {number(search.searched.candidates, 6)} systems checked; {search.searched.best.length}{" "}
          that nothing else beats.
        </p>
      );
  }
}

interface ResultsProps {
  design: Design;
  best: readonly Found[];
  searched: Searched | null;
  chosen: string | null;
  onChoose: (key: string | null) => void;
}

function Results({ design, best, searched, chosen, onChoose }: ResultsProps) {
  const sorted = useMemo(
    () =>
      [...best].sort(
        (a, b) =>
          (a.price ?? Number.POSITIVE_INFINITY) - (b.price ?? Number.POSITIVE_INFINITY) ||
          a.key.localeCompare(b.key),
      ),
    [best],
  );
  if (searched && !best.length) {
    return (
      <div className="my-3 max-w-150 rounded border border-fix p-4" data-part="none">
        <p className="font-semibold">Nothing on the shelf does this.</p>
        <p className="mt-1 text-sm">{searched.why_none}</p>
        <Misses searched={searched} />
      </div>
    );
  }
  if (!best.length) return null;
  const pickOf = (key: string) =>
    PICKS.filter(([aim]) => searched?.picks[aim] === key).map(([, word]) => word);
  const open = sorted.find((one) => one.key === chosen);
  return (
    <>
      {searched ? <InWords best={sorted} searched={searched} onChoose={onChoose} /> : null}
      <div className="mt-2 grid grid-cols-1 gap-x-6 gap-y-4 xl:grid-cols-[minmax(0,1fr)_minmax(0,1.1fr)]">
        <div>
          <Cloud
            found={sorted}
            goal={design.goal.hours}
            horizon={design.setting.horizon_h}
            chosen={chosen}
            onChoose={onChoose}
          />
          <p className="text-soft text-xs">
            Colours: 12 V brown, 24 V river, 48 V violet, stations grey; full: DC first, pale: all
            through mains. As large as it is heavy.
          </p>
          {open ? <Chosen found={open} /> : null}
          {searched ? <Misses searched={searched} /> : null}
        </div>
        <ol className="max-h-140 overflow-y-auto" data-part="best">
          {sorted.map((one) => (
            <li
              key={one.key}
              className={`border-line border-t py-1.5 text-sm ${chosen === one.key ? "bg-river-wash" : ""}`}
              data-found={one.key}
            >
              <button
                type="button"
                className="block w-full text-left"
                aria-pressed={chosen === one.key}
                onClick={() => onChoose(chosen === one.key ? null : one.key)}
              >
                <span className="flex flex-wrap gap-x-2">
                  <strong>{one.title}</strong>
                  {pickOf(one.key).map((word) => (
                    <span key={word} className="tag">
                      {word}
                    </span>
                  ))}
                </span>
                <span className="flex flex-wrap gap-x-4 text-soft">
                  <span>{one.price === null ? "price unsaid" : money(one.price)}</span>
                  <span>{one.mass_kg === null ? "mass unsaid" : quantity(one.mass_kg, "kg")}</span>
                  <span>{one.hours === null ? "longer than simulated" : hours(one.hours)}</span>
                  <span>
                    {one.boxes} {one.boxes === 1 ? "box" : "boxes"}
                  </span>
                  <span>{quantity(one.lost_wh, "Wh")} lost and idle a day</span>
                  <span>{systemOf(one)}</span>
                </span>
              </button>
            </li>
          ))}
        </ol>
      </div>
    </>
  );
}

function Chosen({ found }: { found: Found }) {
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const take = () => {
    change(`take ${found.title}`, (d) => ({
      ...d,
      stores: found.design.stores,
      stages: found.design.stages,
      links: found.design.links,
      loads: found.design.loads,
    }));
    notify(`The design is now ${found.title}.`, { label: "Undo", act: undo });
  };
  return (
    <section className="mt-3 rounded border border-river p-3 text-sm" data-part="chosen">
      <p className="font-semibold">{found.title}</p>
      <p className="mt-0.5">{found.decided}</p>
      <ul className="mt-1">
        {found.used.map((part) => (
          <li key={part.name} className="flex gap-3">
            <span className="flex-1">
              {part.count > 1 ? `${part.count} × ` : ""}
              {part.name}
            </span>
            <span className="text-soft">
              {part.owned === part.count
                ? "you have it"
                : part.price === null
                  ? "–"
                  : `${money(part.price)}${part.owned ? `, you have ${part.owned}` : ""}`}
            </span>
            <span className="w-16 text-right text-soft">
              {part.mass_kg === null ? "–" : quantity(part.mass_kg, "kg")}
            </span>
          </li>
        ))}
      </ul>
      {found.unpriced.length ? (
        <p className="mt-1 text-soft text-xs">
          Without {found.unpriced.join(", ")}: no price on the shelf.
        </p>
      ) : null}
      <p className="mt-2">
        <Button look="main" onClick={take}>
          Make it the design
        </Button>
      </p>
    </section>
  );
}

/** What came near, and the one rule it broke; what was rejected, and for which rule. */
function Misses({ searched }: { searched: Searched }) {
  const near = searched.broken.filter((one) => one.title);
  const rest = searched.broken.filter((one) => !one.title);
  if (!searched.broken.length) return null;
  return (
    <section className="mt-3 text-sm" data-part="misses">
      {near.length ? (
        <>
          <h3 className="font-semibold">Near misses, and the one rule each broke</h3>
          <ul className="mt-1 space-y-1">
            {near.slice(0, 4).map((one) => (
              <li key={one.rule} data-broken={one.rule}>
                {one.example}
                {one.price === null ? "" : `, ${money(one.price)}`}:{" "}
                <span className="text-fix">{one.title}</span>
              </li>
            ))}
          </ul>
        </>
      ) : null}
      {rest.length ? (
        <details className="mt-1">
          <summary className="text-soft">Rejected before that</summary>
          <ul className="mt-1 text-soft">
            {rest.map((one) => (
              <li key={one.rule}>
                {one.rule}: {one.count}, for instance {one.example}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
    </section>
  );
}
