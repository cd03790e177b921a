import { useRef, useState } from "react";
import { api } from "../../api/client";
import type { Outage } from "../../api/types";
import { useAnswer } from "../../design/use-answer";
import { useRoom } from "../../drawing/use-room";
import { Answered } from "../../editor/Answered";
import { NumberField } from "../../editor/NumberField";
import { hours as inHours, number, quantity } from "../../lib/format";

const HEIGHT = 112;
const LEFT = 12;
const TOP = 30;
const CHANGEOVER: Record<Outage["loads"][number]["changeover"], string> = {
  none: "no break",
  break: "a short break",
  unknown: "perhaps a break: pull the plug once and see",
};

/** What an outage of the mains does: each load, how long until full again, two a day. */
export function OutagePanel() {
  const [length, setLength] = useState(9);
  const answer = useAnswer("outage", (now, signal) => api.outage(now, length, signal), {
    key: [length],
  });
  return (
    <section aria-label="If the mains fails" className="mt-4" data-part="outage">
      <h2 className="flex flex-wrap items-center gap-2 text-lg">
        If the mains fails for
        <NumberField
          label="Length of the outage"
          unit="h"
          width="w-16"
          value={length}
          path="/outage"
          onChange={setLength}
        />
      </h2>
      <Answered answer={answer} loading="Letting the mains fail" failed="This cannot be worked out">
        {(outage) => (outage ? <Shown outage={outage} /> : null)}
      </Answered>
    </section>
  );
}

function Shown({ outage }: { outage: Outage }) {
  return (
    <div className="grid grid-cols-1 gap-x-8 gap-y-2 xl:grid-cols-2">
      <div>
        <p className="font-bold font-head text-xl" data-part="outage-headline">
          {outage.headline}
        </p>
        {outage.details.map((line) => (
          <p key={line} className="text-sm">
            {line}
          </p>
        ))}
        <ul className="mt-1 text-sm" aria-label="Loads in the outage">
          {outage.loads.map((load) => (
            <li key={load.id} className="flex flex-wrap gap-x-2 py-0.5" data-outage={load.id}>
              <span className={load.runs_through ? "text-moss" : "font-semibold text-fix"}>
                {load.runs_through ? "✓" : "▲"} {load.name}
              </span>
              <span>{load.says}</span>
              {load.must ? <span className="tag">must run</span> : null}
              {load.changeover === "none" ? null : (
                <span className="text-soft">{CHANGEOVER[load.changeover]}</span>
              )}
            </li>
          ))}
        </ul>
      </div>
      <Survival outage={outage} />
    </div>
  );
}

/** How long what must run goes on, by the hour of day at which the mains fails. */
function Survival({ outage }: { outage: Outage }) {
  const frame = useRef<HTMLDivElement>(null);
  const width = Math.max(useRoom(frame), 260);
  const known = outage.survives.filter((one) => one !== null);
  const most = Math.max(outage.hours * 1.3, ...known.filter((one) => one < outage.hours * 4));
  const x = (hour: number) => LEFT + (hour / 24) * (width - LEFT - 8);
  const y = (hours: number) => HEIGHT - (Math.min(hours, most) / most) * (HEIGHT - TOP);
  const says = outage.survives
    .map((one, hour) => `${hour}:00 ${one === null ? "longer than a week" : inHours(one)}`)
    .join(", ");
  return (
    <div ref={frame}>
      <svg
        width={width}
        height={HEIGHT + 22}
        role="img"
        aria-label={`Hours it runs on, by when the mains fails: ${says}`}
      >
        <text x={4} y={10} fontSize={11.5} fill="var(--soft)">
          h it runs on, by the hour at which the mains fails
        </text>
        {outage.survives.map((one, hour) => {
          const top = y(one ?? most);
          const short = one !== null && one < outage.hours;
          return (
            <rect
              // biome-ignore lint/suspicious/noArrayIndexKey: an hour of the day is its place.
              key={hour}
              x={x(hour) + 1}
              width={x(1) - x(0) - 2}
              y={top}
              height={HEIGHT - top}
              fill={short ? "var(--fix)" : "var(--socket)"}
              opacity={hour === outage.begins_h ? 1 : 0.55}
            />
          );
        })}
        <line
          x1={LEFT}
          x2={width - 8}
          y1={y(outage.hours)}
          y2={y(outage.hours)}
          stroke="var(--ink)"
          strokeDasharray="5 3"
        />
        <text x={LEFT + 4} y={y(outage.hours) - 4} fontSize={11} fill="var(--ink)">
          {quantity(outage.hours, "h")}
        </text>
        {[0, 6, 12, 18, 24].map((hour) => (
          <text
            key={hour}
            x={x(hour)}
            y={HEIGHT + 16}
            fontSize={11}
            textAnchor={hour === 24 ? "end" : "middle"}
            fill="var(--soft)"
          >
            {number(hour)}:00
          </text>
        ))}
      </svg>
    </div>
  );
}
