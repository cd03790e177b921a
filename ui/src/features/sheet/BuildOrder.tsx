import { Link } from "react-router";
import type { Sheet } from "../../api/types";
import { useDesign } from "../../design/store";
import { SheetSection } from "./Parts";

/** What to join when, what to measure then, and what the meter must read. */
export function BuildOrder({ steps }: { steps: Sheet["steps"] }) {
  const id = useDesign((state) => state.id);
  return (
    <SheetSection part="build" title="Build order" page>
      <ol className="text-sm">
        {steps.map((step, n) => (
          <li key={step.title} className="mt-3 break-inside-avoid" data-step={step.energises}>
            <h3 className="text-base">
              <span aria-hidden="true">☐ </span>
              {n + 1}. {step.title}
            </h3>
            {step.beware ? (
              <p className="font-semibold text-stop">
                <span aria-hidden="true">⬣ </span>
                {step.beware}
              </p>
            ) : null}
            <ul className="list-disc pl-5">
              {step.do.map((line) => (
                <li key={line}>{line}</li>
              ))}
            </ul>
            {step.measure.length ? (
              <ul className="mt-1">
                {step.measure.map((one) => (
                  <li
                    key={`${one.kind} ${one.subject} ${one.name}`}
                    className="grid items-baseline gap-x-3 border-line border-t py-0.5 sm:grid-cols-[minmax(0,22rem)_minmax(0,1fr)_6rem]"
                  >
                    <span>{one.name}</span>
                    <span>must read {one.expected}</span>
                    {one.kind ? (
                      <Link
                        to={`/d/${id}/bench?measure=${encodeURIComponent(`${one.kind} ${one.subject}`)}`}
                        className="no-print text-river underline"
                        aria-label={`note it: ${one.name}`}
                      >
                        note it
                      </Link>
                    ) : null}
                    <span className="hidden min-w-24 border-edge border-b print:inline-block" />
                  </li>
                ))}
              </ul>
            ) : null}
          </li>
        ))}
      </ol>
    </SheetSection>
  );
}
