import { scaleLinear } from "d3-scale";
import { area, line } from "d3-shape";
import { api } from "../../api/client";
import type { Design, Sweep } from "../../api/types";
import { namesOf } from "../../design/edits";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { Answered } from "../../editor/Answered";
import { hours, number } from "../../lib/format";
import { Axes } from "./Axes";

const W = 400;
const H = 230;
const PAD = { left: 48, right: 12, top: 14, bottom: 34 };

/** What hours are shown against, with the title and what to say where there is nothing to vary. */
const AGAINST = [
  ["batteries", "Against batteries in parallel", "There is no bank of batteries here."],
  ["temperature", "Against the temperature", "Temperatures are given hour by hour here."],
  ["largest load", "Against the hours of the largest load", "No load here may run at any time."],
] as const;

/** Hours against batteries, warmth and the largest load: each as soon as it is worked out. */
export function Sweeps() {
  return (
    <div className="grid grid-cols-1 gap-6 lg:grid-cols-2 xl:grid-cols-3">
      {AGAINST.map(([against, title, nothing]) => (
        <OneSweep key={against} against={against} title={title} nothing={nothing} />
      ))}
    </div>
  );
}

interface OneSweepProps {
  against: Sweep["against"];
  title: string;
  /** Said where the design has no such thing. */
  nothing: string;
}

function OneSweep({ against, title, nothing }: OneSweepProps) {
  const design = useDesign((state) => state.document);
  // One name: they are asked one after another.
  const answer = useAnswer("sweeps", (made, signal) => api.sweep(made, against, signal), {
    key: [against],
  });
  if (!design) return null;
  return (
    <section aria-label={title}>
      <Answered
        answer={answer}
        loading={`${title}: running every value, with its band`}
        failed="The picture cannot be worked out"
      >
        {(sweep) =>
          sweep.points.length > 1 ? (
            <SweepPicture sweep={sweep} design={design} />
          ) : (
            <>
              <h3 className="font-head font-semibold">{title}</h3>
              <p className="text-sm text-soft">{nothing}</p>
            </>
          )
        }
      </Answered>
    </section>
  );
}

type Point = Sweep["points"][number];

function SweepPicture({ sweep, design }: { sweep: Sweep; design: Design }) {
  const goal = design.goal.hours;
  const capped = (value: number | null) => Math.min(value ?? most, most);
  const ends = sweep.points.flatMap((at) => [at.hours, at.p90]).filter((h) => h !== null);
  const most = Math.max(...ends, goal) * 1.08;
  const first = sweep.points[0]?.value ?? 0;
  const last = sweep.points.at(-1)?.value ?? 1;
  const x = scaleLinear([first, last], [PAD.left, W - PAD.right]);
  const y = scaleLinear([0, most], [H - PAD.bottom, PAD.top]);
  const band = area<Point>(
    (at) => x(at.value),
    (at) => y(capped(at.p10)),
    (at) => y(capped(at.p90)),
  )(sweep.points.filter((at) => at.p10 !== null || at.p90 !== null));
  const middle = line<Point>(
    (at) => x(at.value),
    (at) => y(capped(at.hours)),
  )(sweep.points);
  const present = sweep.points.find((at) => at.present);
  const says = wordsOf(sweep, design);
  return (
    <figure data-sweep={sweep.against}>
      <figcaption className="font-head font-semibold">{titleOf(sweep, design)}</figcaption>
      <svg viewBox={`0 0 ${W} ${H}`} className="w-full" role="img" aria-label={says}>
        <title>{says}</title>
        <Axes x={x} y={y} height={H} goal={goal} unit={sweep.unit} goalAt="start" />
        {band ? <path d={band} fill="var(--band)" /> : null}
        {middle ? <path d={middle} fill="none" stroke="var(--river)" strokeWidth={2} /> : null}
        {sweep.points.map((at) => (
          <circle
            key={at.value}
            cx={x(at.value)}
            cy={y(capped(at.hours))}
            r={at.present ? 5 : 2.5}
            fill={at.meets_goal ? "var(--moss)" : "var(--river)"}
            stroke="var(--paper)"
          />
        ))}
        {present ? (
          <text
            x={Math.min(Math.max(x(present.value), PAD.left + 20), W - 30)}
            y={y(capped(present.hours)) - 9}
            fontSize={11}
            textAnchor="middle"
            fill="var(--ink)"
            className="halo-paper"
          >
            now
          </text>
        ) : null}
      </svg>
      <p className="text-sm" data-part="reads">
        {says}
      </p>
    </figure>
  );
}

function titleOf(sweep: Sweep, design: Design): string {
  if (sweep.against === "temperature") return "Against the temperature";
  const name = namesOf(design).get(sweep.subject) ?? "";
  return sweep.against === "batteries"
    ? `Against batteries in parallel of ${name}`
    : `Against the hours of ${name}`;
}

/** Where the goal is met, in words. */
function wordsOf(sweep: Sweep, design: Design): string {
  const goal = hours(design.goal.hours);
  const from = sweep.meets_from;
  if (from === null) {
    return `The goal of ${goal} is met nowhere here.`;
  }
  switch (sweep.against) {
    case "batteries":
      return `The goal of ${goal} is met from ${from} in parallel on.`;
    case "temperature":
      return `The goal of ${goal} is met from ${number(from)} °C on.`;
    default:
      return `The goal of ${goal} is met up to ${hours(from)} a day.`;
  }
}
