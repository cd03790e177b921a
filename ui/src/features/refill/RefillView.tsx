import { type ReactNode, useMemo, useState } from "react";
import { api } from "../../api/client";
import type { Design, Refill } from "../../api/types";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { useWorked } from "../../design/use-evaluation";
import { Answered } from "../../editor/Answered";
import { NumberField } from "../../editor/NumberField";
import { quantity } from "../../lib/format";
import { SOURCE_COLOURS } from "../../pictures/sources";
import { stoneOf } from "../../pictures/stones";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Finding } from "../../verdict/Findings";
import { useBuildNow } from "../construction/use-build";
import { BalanceList } from "./BalanceList";
import { Days } from "./Days";
import { FillChart } from "./FillChart";
import { OutagePanel } from "./OutagePanel";
import { Outages } from "./Outages";
import { Pairs } from "./Pairs";
import { isOfRefill, MONTHS, SOURCE_WORDS } from "./refill";
import { Spouts } from "./Spouts";
import { WeekChart } from "./WeekChart";
import { YearStrip } from "./YearStrip";

/** Refill: how the stores get full again, and whether a week keeps up with its use. */
export default function RefillView() {
  const design = useDesign((state) => state.document);
  const [fillFrom, setFillFrom] = useState(0.2);
  const answer = useAnswer("refill", (now, signal) => api.refill(now, fillFrom, signal), {
    key: [fillFrom],
  });
  if (!design) return null;
  return (
    <Answered answer={answer} loading="Running the week" failed="The week cannot be worked out">
      {(refill) => (
        <Screen design={design} refill={refill} fillFrom={fillFrom} setFillFrom={setFillFrom} />
      )}
    </Answered>
  );
}

interface ScreenProps {
  design: Design;
  refill: Refill;
  /** The charge from which filling is shown, 0 to 1. */
  fillFrom: number;
  setFillFrom: (charge: number) => void;
}

type SunOfDay = Design["week"]["days"][number]["sun"];

const rain =
  (days: number) =>
  (day: number): SunOfDay =>
    day < days ? "poor" : "usual";

/** What the sun of the whole week may be set to at once, by the day. */
const SUN_OF_DAYS: Record<string, (day: number) => SunOfDay> = {
  "usual all week": () => "usual",
  "rain for 2 days": rain(2),
  "rain for 3 days": rain(3),
  "rain for 5 days": rain(5),
  "rain all week": rain(7),
};

const FILL_FROM = [0.05, 0.1, 0.2, 0.3, 0.5, 0.7, 0.9] as const;

function Screen({ design, refill, fillFrom, setFillFrom }: ScreenProps) {
  const { evaluation } = useWorked();
  const change = useDesign((state) => state.change);
  const stones = useMemo(
    () => new Map(design.loads.map((load, index) => [load.id, index])),
    [design.loads],
  );
  const setWeek = (what: string, part: Partial<Design["week"]>) =>
    change(what, (d) => ({ ...d, week: { ...d.week, ...part } }), `week.${what}`);
  const sunny = design.stores.some((store) => store.kind === "sun");
  const mains = new Set(
    design.stores.filter((store) => store.kind === "mains").map((store) => store.id),
  );
  const onMains = design.links.some((link) => mains.has(link.rail));
  const mine = evaluation.findings.filter((one) => isOfRefill(one.code));
  return (
    <main className="lg:grid lg:min-h-[calc(100vh-3.25rem)] lg:grid-cols-[minmax(0,1fr)_21.5rem]">
      <div className="min-w-0 px-3 py-2">
        <div className="flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
          <h1 className="text-lg">The week</h1>
          {sunny ? (
            <>
              <Choose
                label="Month"
                value={String(design.week.month)}
                options={MONTHS.map((name, index) => [String(index + 1), name] as const)}
                onChange={(month) => setWeek("month", { month: Number(month) })}
              />
              <span className="flex items-center gap-1.5 text-soft">
                Latitude
                <NumberField
                  label="Latitude"
                  unit="°"
                  width="w-14"
                  signed
                  value={design.week.latitude}
                  path="/week/latitude"
                  onChange={(latitude) => setWeek("latitude", { latitude })}
                />
                daylight {quantity(refill.daylight_h, "h")}
              </span>
              <Choose
                label="Sun of all days"
                value=""
                options={[
                  ["", "days as set below"],
                  ...Object.keys(SUN_OF_DAYS).map((what) => [what, what] as const),
                ]}
                onChange={(what) => {
                  const sun = SUN_OF_DAYS[what];
                  if (sun) {
                    const days = design.week.days.map((day, n) => ({ ...day, sun: sun(n) }));
                    setWeek(`sun: ${what}`, { days });
                  }
                }}
              />
            </>
          ) : null}
          <span className="flex-1" />
          <AddSource design={design} />
        </div>
        <Legend refill={refill} stones={stones} />
        <WeekChart refill={refill} stones={stones} />
        <Days refill={refill} />
        {mains.size ? <Outages refill={refill} /> : null}
        <p className="mt-1 text-soft text-xs">
          Band: a tenth to nine tenths of {refill.draws} draws of the uncertain inputs.
          {sunny
            ? " A good day has more sun than the mean of its month, a poor one little: see Assumptions."
            : ""}
        </p>
        <div className="mt-4 grid grid-cols-1 gap-x-8 gap-y-4 xl:grid-cols-2">
          <section aria-label="What would balance it">
            <h2 className="text-lg">
              What would balance it{" "}
              <span className="font-normal text-soft text-sm">each found by running weeks</span>
            </h2>
            <BalanceList refill={refill} />
          </section>
          <section aria-label="How long to fill">
            <h2 className="text-lg">
              How long to fill from{" "}
              <Choose
                label="Fill from"
                value={String(fillFrom)}
                options={FILL_FROM.map((share) => [String(share), `${share * 100} %`] as const)}
                onChange={(share) => setFillFrom(Number(share))}
              />{" "}
              <span className="font-normal text-soft text-sm">loads off, idle draw on</span>
            </h2>
            <FillChart refill={refill} />
          </section>
        </div>
        {onMains ? <OutagePanel /> : null}
        {sunny ? <Pairs /> : null}
        {sunny ? (
          <YearStrip month={design.week.month} onMonth={(month) => setWeek("month", { month })} />
        ) : null}
      </div>
      <aside
        className="space-y-4 border-line bg-bench px-5 py-4 max-lg:border-t lg:border-l"
        aria-label="The week in words"
      >
        <section data-trend={refill.trend}>
          <p className="text-soft text-sm">
            {sunny ? `A week in ${MONTHS[refill.month - 1]}` : "A week"}
          </p>
          <p className="font-bold font-head text-3xl leading-tight" data-part="headline">
            {refill.headline}
          </p>
          {refill.details.map((line) => (
            <p key={line} className="text-sm">
              {line}
            </p>
          ))}
          {refill.trend === "runs down" ? (
            <p className="mt-1 font-semibold text-fix text-sm">
              ▲ Short by {quantity(refill.short_wh, "Wh")} a day.
            </p>
          ) : null}
        </section>
        {refill.inflows.some((one) => one.kind !== "store") ? <Spouts refill={refill} /> : null}
        {mine.length ? (
          <ul className="space-y-2" aria-label="Findings on refill">
            {mine.map((one) => (
              <Finding key={`${one.code}-${one.subject}`} finding={one} previews={false} />
            ))}
          </ul>
        ) : null}
      </aside>
    </main>
  );
}

const SOURCES = [
  ["sun", "+ Sun"],
  ["vehicle", "+ Engine"],
  ["mains", "+ Mains"],
  ["generator", "+ Generator"],
] as const;

/** A source and its charger into the store that is shown, at once. */
function AddSource({ design }: { design: Design }) {
  const buildNow = useBuildNow();
  const show = usePlan((state) => state.show);
  const held = design.stores.filter((store) => store.kind === "bank" || store.kind === "station");
  const to = held[0];
  if (!to) return null;
  const add = async (what: (typeof SOURCES)[number][0]) => {
    await buildNow({ ask: "refill", what, to: to.id });
    show("leads");
  };
  return (
    <span className="flex items-center gap-1" role="group" aria-label={`Charge ${to.name} from`}>
      <span className="text-soft">Charge {to.name} from</span>
      {SOURCES.map(([what, text]) => (
        <Button key={what} onClick={() => void add(what)}>
          {text}
        </Button>
      ))}
    </span>
  );
}

function Legend({ refill, stones }: { refill: Refill; stones: ReadonlyMap<string, number> }) {
  const ins = refill.inflows.filter((one) => one.kind !== "store");
  const outs = refill.outflows.filter((one) => one.day_wh > 0);
  return (
    <ul className="mt-1 flex flex-wrap gap-x-4 text-xs" aria-label="Colours">
      {ins.map((one) => (
        <Key key={one.id} colour={SOURCE_COLOURS[one.kind]}>
          {one.name} ({SOURCE_WORDS[one.kind]})
        </Key>
      ))}
      {ins.length ? null : <li className="text-soft">Nothing comes in yet.</li>}
      {outs.map((one) => {
        const stone = stones.get(one.id);
        return (
          <Key key={one.id} colour={stone === undefined ? "var(--water)" : stoneOf(stone)}>
            {one.name}
          </Key>
        );
      })}
    </ul>
  );
}

function Key({ colour, children }: { colour: string; children: ReactNode }) {
  return (
    <li className="flex items-center gap-1">
      <span className="size-2.5 rounded-sm" style={{ background: colour }} />
      {children}
    </li>
  );
}
