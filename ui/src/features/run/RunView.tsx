import { useCallback, useEffect, useMemo, useState } from "react";
import { useNavigate } from "react-router";
import { api } from "../../api/client";
import type { Course, Design } from "../../api/types";
import { namesOf, outletsOf } from "../../design/edits";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { Answered } from "../../editor/Answered";
import { FigureButton } from "../../editor/FigureButton";
import { readAddress, writeAddress } from "../../lib/address";
import { clock, hours } from "../../lib/format";
import { sourceColour } from "../../pictures/sources";
import { Choose } from "../../ui/Choose";
import { CsvButton } from "../../ui/CsvButton";
import { BandCauses } from "../../verdict/BandCauses";
import { AtCursor } from "./AtCursor";
import { Chart } from "./Chart";
import { FLAG_COLOURS, FLAG_SHAPES } from "./Flags";
import { Flow } from "./Flow";
import { OverlayChoice, PlanAgainstLog, useBankLogs, useOverlay } from "./Overlay";
import { Served } from "./Served";
import { ShownContext, useCourseOf, useShown } from "./use-course";

/** Run: the hours of the design, as a time line that can be read anywhere. */
export default function RunView() {
  const design = useDesign((state) => state.document);
  const [until, setUntil] = useState<number | null>(() => numberIn("until"));
  useEffect(() => writeAddress({ until: until === null ? "" : String(until) }), [until]);
  const course = useCourseOf(until);
  if (!design) return null;
  return (
    <Answered answer={course} loading="Running it" failed="The run cannot be worked out">
      {(data) => <Screen design={design} course={data} until={until} setUntil={setUntil} />}
    </Answered>
  );
}

/** A number in the address; null if there is none. */
function numberIn(name: string): number | null {
  const value = Number(readAddress(name) || Number.NaN);
  return Number.isFinite(value) && value >= 0 ? value : null;
}

interface ScreenProps {
  design: Design;
  course: Course;
  until: number | null;
  setUntil: (until: number | null) => void;
}

function Screen({ design, course, until, setUntil }: ScreenProps) {
  const { evaluation } = useWorked();
  const [rail, setRail] = useState(() => readAddress("rail") ?? design.stores[0]?.id ?? "");
  const [cursor, setCursor] = useState(() => numberIn("cursor") ?? 0);
  useEffect(
    () => writeAddress({ rail, cursor: cursor ? String(Math.round(cursor * 1000) / 1000) : "" }),
    [rail, cursor],
  );
  const at = Math.min(cursor, course.until_h);
  const logs = useBankLogs();
  const [over, setOver] = useState("");
  const laid = logs.find((one) => one.id === over);
  const overlay = useOverlay(laid);
  const shownRail = rail in course.rails ? rail : (design.stores[0]?.id ?? "");
  const shown = useMemo(() => {
    let store = shownRail;
    for (let rail = railOf(design, store); rail; rail = railOf(design, store)) store = rail;
    return {
      course,
      rail: shownRail,
      store,
      overlay,
      names: namesOf(design),
      stones: new Map(design.loads.map((load, index) => [load.id, index])),
      reserve: course.floors[store] ?? 0,
      sources: design.stores.flatMap((one) => {
        const colour = sourceColour(one.kind);
        return colour ? [{ id: one.id, name: one.name, colour }] : [];
      }),
    };
  }, [course, shownRail, design, overlay]);
  const navigate = useNavigate();
  const id = useDesign((state) => state.id);
  const move = useCallback((to: number) => setCursor(to), []);
  const lengths = [24, 72, 168, 720].filter((length) => length <= course.horizon_h);
  return (
    <ShownContext value={shown}>
      <main className="lg:grid lg:min-h-[calc(100vh-3.25rem)] lg:grid-cols-[minmax(0,1fr)_21.5rem]">
        <div className="min-w-0 px-3 py-2">
          <div className="no-print flex flex-wrap items-center gap-x-4 gap-y-1 text-sm">
            <h1 className="text-lg">
              <FigureButton of="run.hours">{evaluation.verdict.lasts}</FigureButton>
            </h1>
            <span className="flex items-center gap-1.5 text-soft">
              Volts of
              <Choose
                label="Volts of"
                value={shownRail}
                options={Object.entries(course.rails)}
                onChange={setRail}
              />
            </span>
            <span className="flex items-center gap-1.5 text-soft">
              Show
              <Choose
                label="Show"
                value={String(until)}
                options={[
                  ["null", "all, or the first week"],
                  ...lengths.map((length) => [String(length), hours(length)] as const),
                ]}
                onChange={(value) => setUntil(value === "null" ? null : Number(value))}
              />
            </span>
            <OverlayChoice logs={logs} value={laid?.id ?? ""} onChange={setOver} />
            <span className="flex-1" />
            <CsvButton file="run.csv" lines="points" load={() => api.courseCsv(design, until)}>
              Copy as CSV
            </CsvButton>
          </div>
          {course.flow.parts.some((part) => part.kind !== "left" && part.kind !== "reserve") ? (
            <Chart cursor={at} onCursor={move} />
          ) : (
            <p className="my-6 max-w-140 rounded border border-edge border-dashed p-4">
              Nothing runs, so there is nothing to draw. Add a load on the Plan, or connect those
              that are not connected.
            </p>
          )}
          <p className="text-soft text-xs">
            Shaded: night, {course.dusk_h} to {course.dawn_h}. Band: a tenth to nine tenths of{" "}
            {course.band.draws} draws of the uncertain inputs.
            {until !== null && course.until_h < until - 0.01
              ? ` There is so much switching that only the first ${hours(course.until_h)} are drawn.`
              : ""}
            {course.series.every > 1
              ? ` So many points that one in ${course.series.every} is drawn; look at fewer hours for all of them.`
              : ""}
          </p>
          {laid ? <PlanAgainstLog log={laid} /> : null}
          <div className="mt-4">
            <Served />
          </div>
          <div className="mt-4 max-w-200">
            <BandCauses
              onMeasure={(kind, subject) =>
                navigate(`/d/${id}/bench?measure=${encodeURIComponent(`${kind} ${subject}`)}`)
              }
            />
          </div>
        </div>
        <aside
          className="space-y-4 border-line bg-bench px-5 py-4 max-lg:border-t lg:border-l"
          aria-label="The run in figures"
        >
          <AtCursor cursor={at} />
          <Happens onMove={move} cursor={at} />
          <Flow />
        </aside>
      </main>
    </ShownContext>
  );
}

/** What a rail is connected to; nothing for a store. */
const railOf = (design: Design, id: string): string | undefined =>
  design.stages.find((stage) => stage.id === id)?.rail ??
  outletsOf(design).find(({ outlet }) => outlet.id === id)?.station.id;

/** What happens, in words; each leads the cursor there. */
function Happens({ onMove, cursor }: { onMove: (hours: number) => void; cursor: number }) {
  const { course } = useShown();
  return (
    <section aria-label="What happens">
      <h2 className="text-lg">What happens</h2>
      {course.flags.length ? null : (
        <p className="text-sm">Nothing cuts out in the simulated time.</p>
      )}
      <ol className="mt-1">
        {course.flags.map((flag, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two things may happen at one time
          <li key={`${flag.hours}-${index}`} className="border-line border-t">
            <button
              type="button"
              className="flex w-full gap-3 py-1 text-left text-sm hover:bg-river-wash"
              aria-current={Math.abs(flag.hours - cursor) < 1e-6}
              onClick={() => onMove(flag.hours)}
              data-happens={flag.kind}
            >
              <span
                className="w-19 shrink-0 font-semibold"
                style={{ color: FLAG_COLOURS[flag.kind] }}
              >
                {FLAG_SHAPES[flag.kind]} {clock(course.starts_at_h + flag.hours)}
                <span className="block font-normal text-soft text-xs">{hours(flag.hours)}</span>
              </span>
              <span>{flag.text}</span>
            </button>
          </li>
        ))}
      </ol>
      {course.flags_beyond > 0 ? (
        <p className="text-soft text-sm">and {course.flags_beyond} more</p>
      ) : null}
    </section>
  );
}
