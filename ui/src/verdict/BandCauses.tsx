import { api } from "../api/client";
import type { BandCauses as Causes } from "../api/types";
import { useAnswer } from "../design/use-answer";
import { hours, quantity } from "../lib/format";

const SHOWN = 4;
/** A smaller share is not worth a line. */
const MIN_SHARE = 0.01;

interface BandCausesProps {
  /** Open the reading that measures a figure. */
  onMeasure: (reading: string, subject: string) => void;
}

/** What the band of hours depends on, the largest first, and what to measure next. */
export function BandCauses({ onMeasure }: BandCausesProps) {
  const answer = useAnswer("band-causes", (design, signal) => api.bandCauses(design, signal));
  const found = answer.data;
  if (answer.error) {
    return (
      <p role="alert" className="text-sm text-stop">
        {answer.error.message}
      </p>
    );
  }
  if (!found?.causes.length) return null;
  const shown = found.causes.slice(0, SHOWN).filter((one) => one.share >= MIN_SHARE);
  const next = found.causes.find((one) => one.subject === found.next_subject);
  return (
    <section
      aria-label="What the likely range depends on"
      data-part="band-causes"
      data-standing={answer.standing.status}
    >
      <h2 className="text-lg">What the likely range depends on</h2>
      <ul className="mt-1 text-sm">
        {shown.map((one) => (
          <Cause key={`${one.subject} ${one.what}`} cause={one} width={found.width_h} />
        ))}
      </ul>
      {found.says ? <p className="mt-1 text-sm">{found.says}</p> : null}
      {next?.reading ? (
        <button
          type="button"
          className="min-h-8 text-river text-sm underline"
          onClick={() => onMeasure(next.reading, next.subject)}
        >
          Measure {next.name}
        </button>
      ) : null}
    </section>
  );
}

function Cause({ cause, width }: { cause: Causes["causes"][number]; width: number | null }) {
  const share = Math.min(cause.share, 1);
  return (
    <li className="border-line border-t py-1" data-cause={cause.subject}>
      <span className="flex items-baseline gap-2">
        <span className="min-w-0 flex-1">
          {cause.name}, {cause.what}
          <span className="text-soft text-xs"> ({cause.provenance})</span>
        </span>
        <span className="tabular-nums">{quantity(share, "share", 2)}</span>
      </span>
      <span aria-hidden="true" className="mt-0.5 block h-1.5 rounded bg-line">
        <span
          className="block h-full rounded bg-river"
          style={{ width: `${Math.max(share * 100, 1)}%` }}
        />
      </span>
      {cause.width_h !== null && width !== null && cause.width_h < width ? (
        <span className="text-soft text-xs">
          measured: the range is {hours(cause.width_h)} wide instead of {hours(width)}
        </span>
      ) : null}
    </li>
  );
}
