import type { CautionRow, Design } from "../api/types";
import { useDesign } from "../design/store";
import { useWorked } from "../design/use-evaluation";
import { listed } from "../lib/format";
import { Button } from "../ui/Button";

/** Dangers of the work: what can happen, what to do, whom to ask. Read ones fold away; none of
 * them ever hides a finding. */
export function Cautions() {
  const { evaluation } = useWorked();
  const change = useDesign((state) => state.change);
  const unread = evaluation.cautions.filter((one) => !one.acknowledged);
  const read = evaluation.cautions.filter((one) => one.acknowledged);
  if (!evaluation.cautions.length) return null;
  const all = () =>
    change("read all cautions", (d) => unread.reduce((design, one) => withRead(design, one), d));
  return (
    <section aria-label="Before you build" data-part="cautions">
      <div className="flex items-baseline gap-3">
        <h2 className="text-lg">Before you build</h2>
        <span className="text-soft text-sm" data-part="unread">
          {unread.length ? `${unread.length} to read` : "all read for this design"}
        </span>
        <span className="flex-1" />
        {unread.length > 1 ? (
          <Button look="quiet" onClick={all}>
            Read all
          </Button>
        ) : null}
      </div>
      <ul className="mt-1 space-y-1.5">
        {unread.map((one) => (
          <Caution key={one.caution.code} warned={one} />
        ))}
      </ul>
      {read.length ? (
        <details className="mt-2 text-sm">
          <summary className="text-soft">{read.length} read for this design</summary>
          <ul className="mt-1.5 space-y-1.5">
            {read.map((one) => (
              <Caution key={one.caution.code} warned={one} />
            ))}
          </ul>
        </details>
      ) : null}
    </section>
  );
}

function Caution({ warned }: { warned: CautionRow }) {
  const change = useDesign((state) => state.change);
  const { caution, names, acknowledged, since } = warned;
  return (
    <li
      className="border-edge border-l-4 border-double bg-card py-1.5 pr-2 pl-3 text-sm"
      data-caution={caution.code}
      data-acknowledged={acknowledged}
    >
      <details>
        <summary>
          <strong>
            <span aria-hidden="true">● </span>
            {caution.title}
          </strong>
          {since.length ? (
            <span className="text-fix"> · new since you read it: {listed(since)}</span>
          ) : null}
        </summary>
        <p className="mt-1">{caution.danger}</p>
        <ul className="mt-1 list-disc pl-5">
          {caution.do.map((what) => (
            <li key={what}>{what}</li>
          ))}
        </ul>
        {caution.ask.length ? (
          <p className="mt-1">
            <strong>Ask</strong> {listed(caution.ask)}.
          </p>
        ) : null}
        {caution.codes.length ? (
          <p className="mt-1 text-soft text-xs">
            Codes that may apply:{" "}
            {caution.codes.map((one) => `${one.names} (${one.region})`).join(", ")}. Naming them
            claims no compliance.
          </p>
        ) : null}
        <p className="mt-1 text-soft text-xs">Because of {listed(names)}.</p>
        <label className="mt-1 flex items-center gap-2">
          <input
            type="checkbox"
            checked={acknowledged}
            onChange={(event) =>
              change(
                event.target.checked ? `read: ${caution.title}` : `unread: ${caution.title}`,
                (d) => (event.target.checked ? withRead(d, warned) : withoutRead(d, caution.code)),
              )
            }
          />
          I have read this for this design
        </label>
      </details>
    </li>
  );
}

const withoutRead = (design: Design, code: string): Design => ({
  ...design,
  acknowledged: (design.acknowledged ?? []).filter((one) => one.code !== code),
});

const withRead = (design: Design, { caution }: CautionRow): Design => ({
  ...design,
  acknowledged: [
    ...withoutRead(design, caution.code).acknowledged,
    { code: caution.code, subjects: caution.subjects },
  ],
});
