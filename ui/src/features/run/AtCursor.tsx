import type { ReactNode } from "react";
import { clock, hours, quantity } from "../../lib/format";
import { stoneOf } from "../../pictures/stones";
import { valueAt } from "./geometry";
import { useShown } from "./use-course";

/** Every value at the cursor. */
export function AtCursor({ cursor }: { cursor: number }) {
  const { course, store, names, stones, sources } = useShown();
  const { series, band, starts_at_h: start } = course;
  const read = (column: readonly number[] | undefined) =>
    valueAt(series.hours, column ?? [], cursor);
  const bands = (column: readonly number[] | undefined) =>
    quantity(valueAt(band.hours, column ?? [], cursor), "share", 2);
  const loads = Object.entries(series.watts)
    .map(([id, values]) => [id, read(values)] as const)
    .filter(([, watts]) => watts > 0);
  const given = read(series.given[store]);
  return (
    <section aria-label="At the cursor" data-part="at-cursor">
      <p className="text-soft text-sm">
        At the cursor · day {Math.floor((start + cursor) / 24) + 1}, {clock(start + cursor)} ·{" "}
        {hours(cursor)} in
      </p>
      <table className="mt-1 w-full text-sm">
        <tbody>
          <Line name="Charge">
            {quantity(read(series.charge[store]), "share", 3)}{" "}
            <span className="font-normal text-soft">
              ({bands(band.low[store])} to {bands(band.high[store])})
            </span>
          </Line>
          {Object.entries(course.rails).map(([rail, name]) => {
            const volts = read(series.volts[rail]);
            return (
              <Line key={rail} name={name}>
                {volts > 0
                  ? `${quantity(volts, "V", 4)} · ${quantity(read(series.amps[rail]), "A")}`
                  : "off"}
              </Line>
            );
          })}
          <Line name={given < 0 ? "Into the store" : "Out of the store"}>
            {watts(Math.abs(given))}
          </Line>
          {sources
            .filter(({ id }) => read(series.given[id]) > 0)
            .map(({ id, name, colour }) => (
              <Line key={id} name={`From ${name}`} colour={colour}>
                {watts(read(series.given[id]))}
              </Line>
            ))}
          {loads.map(([id, one]) => (
            <Line key={id} name={names.get(id) ?? id} colour={stoneOf(stones.get(id) ?? 0)}>
              {watts(one)}
            </Line>
          ))}
          <Line name="Idle" colour="var(--sand)">
            {watts(read(series.idle))}
          </Line>
          <Line name="Conversion and cables" colour="var(--water)">
            {watts(read(series.lost))}
          </Line>
        </tbody>
      </table>
    </section>
  );
}

/** To a tenth of a watt: less than that is nothing to speak of. */
const watts = (value: number) => quantity(Math.round(value * 10) / 10, "W");

interface LineProps {
  name: string;
  colour?: string;
  children: ReactNode;
}

function Line({ name, colour, children }: LineProps) {
  return (
    <tr className="border-line border-t">
      <th scope="row" className="py-0.5 text-left font-normal">
        {colour ? (
          <span
            aria-hidden="true"
            className="mr-1.5 inline-block size-2.5 rounded-full"
            style={{ background: colour }}
          />
        ) : null}
        {name}
      </th>
      <td className="py-0.5 text-right font-semibold">{children}</td>
    </tr>
  );
}
