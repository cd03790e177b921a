import { Fragment } from "react";
import type { Cable, CableRow, Design, Judgement } from "../../api/types";
import { connectorName, connectorsFor, proposalOf, sized, sizesFor } from "../../design/cable-text";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { FigureButton } from "../../editor/FigureButton";
import { LengthField } from "../../editor/LengthField";
import { NumberField } from "../../editor/NumberField";
import { quantity } from "../../lib/format";
import { FuseStrip } from "../../pictures/FuseStrip";
import { SEVERITIES } from "../../pictures/severities";
import { Choose } from "../../ui/Choose";
import { CableDetails } from "./CableDetails";
import { Discs } from "./Discs";
import { isWiring, withCable, withFuse, withJoined } from "./wiring";

type Size = NonNullable<Cable["size"]> | null;

interface CableLineProps {
  row: CableRow;
  /** The system that sizes are chosen in. */
  sizes: "metric" | "AWG";
  open: boolean;
  onOpen: () => void;
}

/** A run in one line, edited in place; what more there is to it opens below. */
export function CableLine({ row, sizes, open, onOpen }: CableLineProps) {
  const { evaluation, stamp, reference } = useWorked();
  const { document: design, change, apply } = useDesign();
  if (!design) return null;
  const key = `cable.${row.subject}`;
  const worst = worstWiring(evaluation.findings, row.subject);
  const shown = row.chosen ?? row.proposed;
  const suggestion = proposalOf(row);
  const set = (what: string, make: (d: Design) => Design) =>
    change(`${row.name}: ${what}`, make, `${key}.${what}`);
  const lost = row.loses_too_much;
  return (
    <Fragment>
      <tr
        className="border-line border-t align-middle"
        data-cable={row.subject}
        data-chosen={row.chosen !== null}
        data-severity={worst?.severity}
      >
        <td
          className="max-w-64 py-1.5"
          style={{ paddingLeft: `${Math.min(row.level, 5) * 0.9}rem` }}
        >
          <span className="flex items-baseline gap-1.5">
            {worst ? (
              <span className={SEVERITIES[worst.severity].colour.split(" ")[0]} title={worst.title}>
                {SEVERITIES[worst.severity].shape}
                <span className="sr-only">{SEVERITIES[worst.severity].word}</span>
              </span>
            ) : null}
            <span className="truncate font-semibold" title={row.name}>
              {row.name}
            </span>
          </span>
          <span className="block text-soft text-xs">
            {row.kind === "post"
              ? row.strings > 1
                ? `posts to bus bar, ${row.strings} in parallel`
                : "posts to bus bar"
              : `from ${row.before}`}
          </span>
        </td>
        <td className="px-2 text-right">
          <FigureButton of={`${key}.design_a`} className="font-semibold" />
          <span className="block whitespace-nowrap text-soft text-xs">
            nominal <FigureButton of={`${key}.quick_a`} />
          </span>
          <span className="block whitespace-nowrap text-soft text-xs">
            start <FigureButton of={`${key}.start_a`} />
          </span>
        </td>
        <td className="px-2 text-right">
          <LengthField
            label={`${row.name}: length one way`}
            about={row.length_m}
            value={row.length_given ? row.length_m : null}
            path={`${row.path}/cable/length_m`}
            onChange={(length_m) => set("length", (d) => withCable(d, row, { length_m }))}
          />
        </td>
        <td className="px-2">
          <span className="flex items-center gap-2">
            <span className="flex min-w-14 justify-center">
              {shown ? <Discs size={shown} proposed={!row.chosen} /> : null}
            </span>
            <span>
              <Choose
                label={`${row.name}: size`}
                value={row.chosen?.name ?? ""}
                options={sizesFor(reference, sizes, row.chosen)}
                onChange={(size) =>
                  set("size", (d) => withCable(d, row, { size: (size || null) as Size }))
                }
                className="w-48"
              />
              <span className="block text-soft text-xs" data-part="proposed">
                {row.chosen ? (
                  <>
                    {row.chosen.leads > 1 ? `${row.chosen.leads} parallel · ` : ""}
                    {row.proposed && row.minimum
                      ? `smallest ${sized(row.minimum)}, suggested ${sized(row.proposed)}`
                      : ""}
                  </>
                ) : row.proposed && row.minimum ? (
                  `smallest ${sized(row.minimum)}, one up ${sized(row.proposed)}`
                ) : (
                  "no common cable carries this"
                )}
              </span>
              {suggestion ? (
                <button
                  type="button"
                  className="text-left text-river text-xs underline underline-offset-2"
                  onClick={() => apply(`${row.name}: apply the suggestion`, row.edits, stamp)}
                  data-take={row.subject}
                >
                  use {suggestion}
                </button>
              ) : null}
            </span>
          </span>
        </td>
        <td className="px-2 text-right">
          <FigureButton of={`${key}.drop_v`} digits={2} />
          <span
            className={`block whitespace-nowrap text-xs ${lost ? "font-semibold text-fix" : "text-soft"}`}
          >
            {lost ? "▲ " : ""}
            <FigureButton of={`${key}.way_share`} digits={2} /> of{" "}
            {quantity(row.may_lose, "share", 2)}
          </span>
        </td>
        <td className="px-2 text-right">
          <FigureButton of={`${key}.heat_w`} digits={2} />
        </td>
        <td className="px-2">
          <span className="flex items-center gap-1.5">
            <FuseStrip row={row} />
            <NumberField
              label={`${row.name}: fuse`}
              unit="A"
              width="w-14"
              placeholder={
                row.proposed_fuse ? String(row.proposed_fuse.amps) : row.limited ? "none" : "–"
              }
              value={row.fuse?.amps ?? null}
              path={`${row.path}/fuse/amps`}
              onChange={(amps) => set("fuse", (d) => withFuse(d, row, { amps }))}
              onClear={() => set("fuse", (d) => withJoined(d, row, { fuse: null }))}
            />
          </span>
        </td>
        <td className="px-2">
          <Choose
            label={`${row.name}: connector`}
            value={row.connector ?? ""}
            options={connectorsFor(reference)}
            onChange={(connector) =>
              set("connector", (d) =>
                withJoined(d, row, { connector: (connector || null) as CableRow["connector"] }),
              )
            }
            className="w-36"
          />
          {row.connector ? null : (
            <span className="block text-soft text-xs">
              {connectorName(reference, row.proposed_connector)}
            </span>
          )}
        </td>
        <td className="text-right">
          <button
            type="button"
            className="rounded px-2 py-1 hover:bg-river-wash"
            aria-expanded={open}
            aria-label={`${row.name}: more`}
            onClick={onOpen}
            data-more={row.subject}
          >
            {open ? "▾" : "▸"}
          </button>
        </td>
      </tr>
      {open ? (
        <tr>
          <td colSpan={9} className="bg-bench px-4 pt-1 pb-3">
            <CableDetails row={row} />
          </td>
        </tr>
      ) : null}
    </Fragment>
  );
}

/** The gravest finding about the wiring of a run. */
const worstWiring = (findings: readonly Judgement[], subject: string) =>
  findings.find((one) => one.subject === subject && isWiring(one.code) && one.severity !== "note");
