import { useMemo, useState } from "react";
import { api } from "../../api/client";
import type { Route } from "../../api/types";
import { isBank, isStation } from "../../design/edits";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { useWorked, WorkedContext } from "../../design/use-evaluation";
import { FigureButton } from "../../editor/FigureButton";
import { NumberField } from "../../editor/NumberField";
import { useNotice } from "../../lib/notice";
import { money } from "../../lib/own-units";
import { SEVERITIES } from "../../pictures/severities";
import { WindowStrip } from "../../pictures/WindowStrip";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Scroll } from "../../ui/Scroll";

type Sort = "trade" | "watts" | "gained" | "refill" | "price" | "price_a_wh";
const SORTS: [Sort, string][] = [
  ["trade", "in the usual order"],
  ["watts", "most watts first"],
  ["gained", "most hours first"],
  ["refill", "soonest refilled first"],
  ["price", "cheapest first"],
  ["price_a_wh", "cheapest for a Wh first"],
];

/** How a station grows: every way worked out on its own loads, side by side. */
export default function RoutesPanel() {
  const design = useDesign((state) => state.document);
  const stations = design?.stores.filter(isStation) ?? [];
  const banks = design?.stores.filter(isBank) ?? [];
  const [wanted, setWanted] = useState<string | null>(null);
  const [at, setAt] = useState<string | null>(null);
  const [moduleWh, setModuleWh] = useState<number | null>(null);
  const [modulePrice, setModulePrice] = useState<number | null>(null);
  const [sort, setSort] = useState<Sort>("trade");
  const station = stations.find((one) => one.id === wanted) ?? stations[0];
  const battery = at === null ? (banks[0]?.id ?? "") : at;
  const ask = {
    station: station?.id ?? "",
    battery: battery || null,
    module_wh: moduleWh,
    module_price: moduleWh === null ? null : modulePrice,
  };
  const { data, stamp, standing, error } = useAnswer(
    "routes",
    (document, signal) => api.routes(document, ask, signal),
    { key: [ask], enabled: ask.station !== "" },
  );
  const routes = useMemo(() => sorted(data ?? [], sort), [data, sort]);
  const worked = useWorked();
  // A route's figures open their own workings: those of the design it leads to.
  const workedOf = (route: Route) => ({
    ...worked,
    evaluation: { ...worked.evaluation, figures: route.figures },
    workings: route.figures,
    stamp: stamp ?? worked.stamp,
  });
  if (!design || !station) {
    return (
      <p className="my-4 max-w-140 rounded border border-edge border-dashed p-4">
        There is no power station in this design. Add one under Stores: then the ways to grow it
        stand here side by side.
      </p>
    );
  }
  return (
    <div>
      <div className="flex flex-wrap items-center gap-x-4 gap-y-2 text-sm">
        <span className="flex items-center gap-2">
          Grow
          <Choose
            label="Station to grow"
            value={station.id}
            options={stations.map((one) => [one.id, one.name] as const)}
            onChange={setWanted}
          />
        </span>
        <span className="flex items-center gap-2">
          from
          <Choose
            label="Battery at hand"
            value={battery}
            options={[
              ...banks.map((one) => [one.id, `${one.name}, at hand`] as const),
              ["", "a battery to be bought"] as const,
            ]}
            onChange={setAt}
          />
        </span>
        <span className="flex items-center gap-2">
          Maker's module
          <NumberField
            label="Maker's module energy"
            unit="Wh"
            value={moduleWh}
            path="/module_wh"
            applies="left"
            onChange={setModuleWh}
            onClear={() => setModuleWh(null)}
          />
          for
          <NumberField
            label="Maker's module price"
            placeholder="price"
            value={modulePrice}
            path="/module_price"
            applies="left"
            onChange={setModulePrice}
            onClear={() => setModulePrice(null)}
          />
        </span>
        <Choose label="Sort routes" value={sort} options={SORTS} onChange={setSort} />
        <span role="status" className="text-soft">
          {standing.status === "fresh" ? `${routes.length} options` : "working out…"}
        </span>
      </div>
      {error ? <p className="mt-2 text-stop">{error.message}</p> : null}
      <div data-answer={standing.status}>
        <Scroll label="Ways to grow the station" className="mt-3">
          <table className="w-full min-w-220 text-sm">
            <thead>
              <tr className="border-line border-b text-left text-soft">
                {[
                  "Option",
                  "Fits",
                  "Charges",
                  "Gains",
                  "Recharged in",
                  "To buy",
                  "Watch out for",
                ].map((head) => (
                  <th key={head} scope="col" className="py-1.5 pr-3 font-medium">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {routes.map((route) => (
                <WorkedContext key={route.way} value={workedOf(route)}>
                  <RouteRow route={route} />
                </WorkedContext>
              ))}
            </tbody>
          </table>
        </Scroll>
      </div>
    </div>
  );
}

/** What cannot be told, or does not fit, goes last. */
function sorted(routes: readonly Route[], sort: Sort): Route[] {
  if (sort === "trade") return [...routes];
  const never = Number.POSITIVE_INFINITY;
  const of: Record<Exclude<Sort, "trade">, (route: Route) => number> = {
    watts: (route) => -(route.link?.watts ?? 0),
    gained: (route) => (route.hours === null ? -never : -route.hours),
    refill: (route) => route.refill_h ?? never,
    price: (route) => route.price ?? never,
    price_a_wh: (route) => route.price_a_wh ?? never,
  };
  return routes.toSorted((a, b) => Number(!a.fits) - Number(!b.fits) || of[sort](a) - of[sort](b));
}

function priceOf({ price }: Route): string {
  if (price === null) return "price unsaid";
  return price > 0 ? money(price, 3) : "nothing";
}

function RouteRow({ route }: { route: Route }) {
  const { stamp } = useWorked();
  const apply = useDesign((state) => state.apply);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const take = () => {
    if (apply(`use ${route.title}`, route.edits, stamp)) {
      notify(`The design is now: ${route.title}.`, { label: "Undo", act: undo });
    }
  };
  const grave = route.warnings.filter((one) => one.severity !== "watch");
  const shown = grave.length ? grave : route.warnings;
  return (
    <tr
      className="border-line border-b align-top hover:bg-bench"
      data-route={route.way}
      data-fits={route.fits}
    >
      <th scope="row" className="max-w-48 py-2 pr-3 text-left font-semibold">
        {route.title}
        <span className="block font-normal text-soft text-xs">{route.says}</span>
        {route.way === "present" ? null : (
          <Button className="mt-1" onClick={take} aria-label={`Use: ${route.title}`}>
            Use
          </Button>
        )}
      </th>
      <td className="py-2 pr-3">
        {route.joint ? <WindowStrip joint={route.joint} width={120} /> : <span>inside it</span>}
        {route.fits ? null : <span className="block text-stop text-xs">■ does not charge</span>}
      </td>
      <td className="py-2 pr-3">
        {route.link && route.fits ? (
          <>
            <FigureButton of={`link.${route.link.id}.watts`} className="font-semibold" />
            <span className="block text-soft text-xs">limited by {route.link.held_by}</span>
            <span className="block text-soft text-xs">
              <FigureButton of={`link.${route.link.id}.source_a`} /> out of the battery
            </span>
          </>
        ) : (
          "–"
        )}
      </td>
      <td className="py-2 pr-3">
        <FigureButton of="run.hours" className="font-semibold">
          {route.gains}
        </FigureButton>
        <span className="block text-soft text-xs">
          {route.lasts} in all
          {route.gained_wh > 0 ? (
            <>
              , <FigureButton of="route.gained" /> delivered
            </>
          ) : null}
        </span>
      </td>
      <td className="py-2 pr-3">
        <FigureButton of="route.refill_h" />
        <span className="block text-soft text-xs">{route.refill}</span>
      </td>
      <td className="py-2 pr-3">
        <strong>{priceOf(route)}</strong>
        {route.price_a_wh === null ? null : (
          <span className="block text-xs">
            <FigureButton of="route.price_a_wh" digits={2} /> a Wh delivered
          </span>
        )}
        {route.parts.map((part) => (
          <span key={part.name} className="block text-soft text-xs">
            {part.count > 1 ? `${part.count} × ` : ""}
            {part.name}
            {part.have ? ", at hand" : ""}
          </span>
        ))}
      </td>
      <td className="max-w-60 py-2 pr-3 text-xs">
        {shown.map((one) => (
          <span key={one.title} className="block">
            <span className={SEVERITIES[one.severity].colour.split(" ")[0]}>
              {SEVERITIES[one.severity].shape}
            </span>{" "}
            {one.title}
          </span>
        ))}
        {route.mind.length ? (
          <details>
            <summary className="text-river">Warranty, plug, heat</summary>
            {route.mind.map((line) => (
              <span key={line} className="block">
                {line}
              </span>
            ))}
          </details>
        ) : null}
      </td>
    </tr>
  );
}
