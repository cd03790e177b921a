import { useState } from "react";
import type { Refill, WeekDay } from "../../api/types";
import { useDesign } from "../../design/store";
import { TimesField } from "../../editor/TimesField";
import { Choose } from "../../ui/Choose";
import { typedOutages } from "./outages";

/** Outages of the mains as times of day, typed: what is drawn on the week stands here too. */
export function Outages({ refill }: { refill: Refill }) {
  const [chosen, setChosen] = useState(0);
  const change = useDesign((state) => state.change);
  const day = refill.days[chosen];
  if (!day) return null;
  const set = (make: (days: readonly WeekDay[]) => WeekDay[]) =>
    change(`${day.name}: outages`, (d) => ({
      ...d,
      week: { ...d.week, days: make(d.week.days) },
    }));
  const [first, ...rest] = day.outages;
  return (
    <p className="mt-1 flex flex-wrap items-center gap-2 text-sm" data-part="outages">
      No mains on
      <Choose
        label="Day of the outage"
        value={String(chosen)}
        options={refill.days.map((one, n) => [
          String(n),
          one.outages.length ? `${one.name} (${one.outages.length})` : one.name,
        ])}
        onChange={(n) => setChosen(Number(n))}
      />
      <TimesField
        key={chosen}
        label={`No mains on ${day.name}`}
        placeholder="none"
        value={first ? { kind: "windows", windows: [first, ...rest] } : null}
        onChange={({ windows }) => set((days) => typedOutages(days, chosen, windows))}
        onClear={() => set((days) => typedOutages(days, chosen, []))}
      />
      <span className="text-soft text-xs">or draw over “mains” on the week</span>
    </p>
  );
}
