import type { ReactNode } from "react";
import type { Sheet } from "../../api/types";
import { hours, number, quantity } from "../../lib/format";
import { useSettings } from "../../lib/settings";
import { SEVERITIES } from "../../pictures/severities";

/** A part of the sheet with its title; on paper it begins a page if it is to. */
export function SheetSection(props: {
  part: string;
  title: string;
  page?: boolean;
  children: ReactNode;
}) {
  return (
    <section
      aria-label={props.title}
      data-part={`sheet-${props.part}`}
      className={`mt-5 ${props.page ? "print:break-before-page" : ""}`}
    >
      <h2 className="border-edge border-b text-lg">{props.title}</h2>
      {props.children}
    </section>
  );
}

/** A table that is moved sideways where it is wider than the screen, by keyboard too. */
function Wide({ name, children }: { name: string; children: ReactNode }) {
  return (
    // biome-ignore lint/a11y/noNoninteractiveTabindex: what is moved has to be reached
    <section aria-label={name} tabIndex={0} className="overflow-x-auto">
      {children}
    </section>
  );
}

/** What the plan answers: how long, what stops first, what is wrong, what to beware of. */
export function Cover({ sheet, children }: { sheet: Sheet; children: ReactNode }) {
  const { verdict, band } = sheet;
  return (
    <SheetSection part="cover" title={sheet.name}>
      {sheet.notes ? <p className="mt-1 whitespace-pre-line text-sm">{sheet.notes}</p> : null}
      <p className="mt-2 text-sm">With everything here, from full, it lasts</p>
      <p className="font-bold font-head text-3xl" data-figure-of="lasts">
        {verdict.lasts}
      </p>
      <p className="text-sm">
        {band.draws && band.p10 !== null ? (
          <>
            Likely {hours(band.p10)} to {band.p90 === null ? "longer" : hours(band.p90)}.{" "}
          </>
        ) : null}
        {verdict.then} {verdict.first} The goal is {hours(verdict.goal_hours)}:{" "}
        {verdict.meets_goal ? "met" : "not met"}.
      </p>
      <div className="my-2">{children}</div>
      {sheet.findings.length ? (
        <>
          <h3 className="mt-3">Problems left</h3>
          <ul className="text-sm">
            {sheet.findings.map((one) => (
              <li key={`${one.title}`}>
                <span aria-hidden="true">{SEVERITIES[one.severity].shape} </span>
                <strong>{SEVERITIES[one.severity].word}.</strong> {one.title}.
              </li>
            ))}
          </ul>
        </>
      ) : null}
      <h3 className="mt-3">Before you build</h3>
      <ul className="list-disc pl-5 text-sm">
        {sheet.cautions.map(({ caution }) => (
          <li key={caution.code}>
            <strong>{caution.title}.</strong> {caution.danger}
          </li>
        ))}
      </ul>
      <p className="mt-1 text-soft text-xs">
        A plan is no permission: local codes and licensed practice stand before it. Medical devices:
        ask their maker and the clinician.
      </p>
    </SheetSection>
  );
}

/** What is bought, with what it comes to. */
export function Shopping({ sheet, prices }: { sheet: Sheet; prices: boolean }) {
  const { shopping } = sheet;
  const currency = useSettings((state) => state.currency);
  const money = (value: number | null) =>
    value === null || !prices ? "" : `${number(value, 4)} ${currency}`.trim();
  const kilos = (value: number | null) => (value === null ? "" : quantity(value, "kg"));
  return (
    <SheetSection part="shopping" title="To buy">
      <Wide name="What to buy">
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-soft">
              <th className="w-6" />
              <th>Part</th>
              <th className="text-right">Count</th>
              <th className="text-right">Price</th>
              <th className="text-right">Mass</th>
            </tr>
          </thead>
          <tbody>
            {shopping.items.map((one) => (
              <tr key={one.name} className="border-line border-t">
                <td aria-hidden="true">☐</td>
                <td>
                  {one.name}
                  {one.owned ? <span className="text-soft"> there already</span> : null}
                </td>
                <td className="text-right">{one.count}</td>
                <td className="text-right">{money(one.price)}</td>
                <td className="text-right">{kilos(one.mass_kg)}</td>
              </tr>
            ))}
          </tbody>
          <tfoot>
            <tr className="border-edge border-t font-semibold">
              <td />
              <td>Together</td>
              <td />
              <td className="text-right" data-figure-of="price">
                {money(shopping.price)}
              </td>
              <td className="text-right">{kilos(shopping.mass_kg)}</td>
            </tr>
          </tfoot>
        </table>
      </Wide>
      {prices && shopping.unpriced.length ? (
        <p className="text-soft text-xs">
          Without a price on the shelf: {shopping.unpriced.join(", ")}.
        </p>
      ) : null}
    </SheetSection>
  );
}

const HEADS = ["Run", "From", "Volts", "Amps", "Cable", "One way", "Fuse", "Connector"] as const;

/** Every run with its cable, fuse and connector, and what is cut for them. */
export function Wiring({ sheet }: { sheet: Sheet }) {
  if (!sheet.wiring.length) return null;
  return (
    <SheetSection part="wiring" title="Wiring">
      <Wide name="Runs">
        <table className="w-full text-sm">
          <thead>
            <tr className="text-left text-soft">
              {HEADS.map((head) => (
                <th key={head} className="pr-2">
                  {head}
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {sheet.wiring.map((row) => (
              <tr key={row.name} className="border-line border-t align-top">
                {[row.name, row.begins, row.volts, row.amps, row.size, row.length, row.fuse].map(
                  (cell, n) => (
                    <td key={HEADS[n]} className="pr-2">
                      {cell}
                    </td>
                  ),
                )}
                <td>{row.connector}</td>
              </tr>
            ))}
          </tbody>
        </table>
      </Wide>
      <p className="text-soft text-xs">In brackets: suggested, not chosen yet. {sheet.custom}</p>
      <h3 className="mt-3">Cut list</h3>
      <ul className="text-sm">
        {sheet.cuts.map((one) => (
          <li key={`${one.kind} ${one.item}`}>
            <span aria-hidden="true">☐ </span>
            {one.count} × {one.kind} {one.item}
            {one.metres ? (
              <span className="text-soft">
                : {one.pieces.map((m) => quantity(m, "m")).join(" + ")}, {quantity(one.metres, "m")}
              </span>
            ) : null}
          </li>
        ))}
      </ul>
    </SheetSection>
  );
}

/** Strips to cut out and stick beside fuses and switches. */
export function Labels({ labels }: { labels: readonly string[] }) {
  if (!labels.length) return null;
  return (
    <SheetSection part="labels" title="Label strips">
      <ul className="mt-2 grid grid-cols-1 gap-2 text-sm sm:grid-cols-2">
        {labels.map((one) => (
          <li key={one} className="border border-edge border-dashed px-2 py-1.5 font-semibold">
            {one}
          </li>
        ))}
      </ul>
    </SheetSection>
  );
}
