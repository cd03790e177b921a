import { memo, useState } from "react";
import type { Evaluation } from "../api/types";
import { clock, hours, quantity } from "../lib/format";

interface WhatHappensProps {
  run: Evaluation["run"];
  /** Time of day at which the run begins. [h] */
  startsAt: number;
}

/** The run in words: when what cuts out and restarts, and where the energy went. */
export const WhatHappens = memo(function WhatHappens({ run, startsAt }: WhatHappensProps) {
  const [open, setOpen] = useState(false);
  if (!run.destinations.length) return null;
  return (
    <details
      className="mb-3"
      data-part="happens"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="font-semibold text-sm">Events until then</summary>
      {open ? <Events run={run} startsAt={startsAt} /> : null}
    </details>
  );
});

/** There may be hundreds: made only while they are looked at. */
function Events({ run, startsAt }: WhatHappensProps) {
  const total = run.destinations.reduce((sum, part) => sum + part.wh, 0);
  const sorted = [...run.destinations].sort((a, b) => b.wh - a.wh);
  return (
    <>
      <ol className="mt-1 space-y-1 text-sm">
        {run.happenings.map((one, index) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: two things may happen at one time
          <li key={`${one.hours}-${index}`} className="flex gap-2">
            <span className="w-24 shrink-0 text-soft">
              {hours(one.hours)}, {clock(startsAt + one.hours)}
            </span>
            <span>{one.text}</span>
          </li>
        ))}
      </ol>
      {run.happenings_beyond > 0 ? (
        <p className="text-soft text-sm">and {run.happenings_beyond} more</p>
      ) : null}
      <h3 className="mt-2 text-sm">Where {quantity(total, "Wh")} went</h3>
      <table className="w-full text-sm">
        <tbody>
          {sorted.map((part) => (
            <tr key={`${part.kind}-${part.subject}`} className="border-line border-t">
              <th scope="row" className="text-left font-normal">
                {part.name}
              </th>
              <td className="whitespace-nowrap text-right">{quantity(part.wh, "Wh")}</td>
              <td className="w-14 text-right text-soft">{quantity(part.wh / total, "share", 2)}</td>
            </tr>
          ))}
        </tbody>
      </table>
      {run.stores.map((store) => (
        <p key={store.id} className="mt-1 text-soft text-sm">
          {quantity(store.left_wh, "Wh")} are left above the reserve, at{" "}
          {quantity(store.charge, "share", 2)} charge.
        </p>
      ))}
    </>
  );
}
