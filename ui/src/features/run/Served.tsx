import { clock, hours, quantity } from "../../lib/format";
import { stoneOf } from "../../pictures/stones";
import { Scroll } from "../../ui/Scroll";
import { useShown } from "./use-course";

/** What each load had of what it wanted until the run ended. */
export function Served() {
  const { course, stones } = useShown();
  if (!course.served.length) return null;
  return (
    <Scroll label="Served and missed">
      <h2 className="text-lg">Served and missed</h2>
      <table className="mt-1 w-full min-w-120 text-sm">
        <thead>
          <tr className="border-line border-b text-left text-soft">
            <th className="font-medium">Load</th>
            <th className="w-40 font-medium">Hours served of those scheduled</th>
            <th className="text-right font-medium">Served</th>
            <th className="text-right font-medium">Missed</th>
            <th className="text-right font-medium">Energy</th>
            <th className="pl-3 font-medium">First missed</th>
          </tr>
        </thead>
        <tbody>
          {course.served.map((row) => {
            const share = row.scheduled_h > 0 ? row.served_h / row.scheduled_h : 0;
            const missed = row.scheduled_h - row.served_h;
            return (
              <tr key={row.id} className="border-line border-b" data-served={row.id}>
                <th scope="row" className="py-1 text-left font-normal">
                  <span
                    aria-hidden="true"
                    className="mr-1.5 inline-block size-2.5 rounded-full"
                    style={{ background: stoneOf(stones.get(row.id) ?? 0) }}
                  />
                  {row.name}
                </th>
                <td>
                  <svg width="150" height="10" aria-hidden="true">
                    <rect width="150" height="10" rx="2" fill="url(#kept)" />
                    <rect width={150 * share} height="10" rx="2" fill="var(--river)" />
                  </svg>
                </td>
                <td className="text-right">{hours(row.served_h)}</td>
                <td className={`text-right ${missed > 0.01 ? "font-semibold text-fix" : ""}`}>
                  {missed > 0.01 ? hours(missed) : "–"}
                </td>
                <td className="text-right">{quantity(row.used_wh, "Wh")}</td>
                <td className="pl-3">
                  {row.missed_from_h === null
                    ? "never"
                    : row.scheduled_h === 0 && row.missed_from_h === 0
                      ? "not connected, or its volts do not fit"
                      : `after ${hours(row.missed_from_h)}, ${clock(course.starts_at_h + row.missed_from_h)}`}
                </td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </Scroll>
  );
}
