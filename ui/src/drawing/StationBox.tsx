import type { Lead, LinkRow, Outlet, Station } from "../api/types";
import { namesOf, outletsOf } from "../design/edits";
import { quantity } from "../lib/format";
import { SEVERITIES } from "../pictures/severities";
import { cut, Frame, Thing } from "./Boxes";
import type { PlacedBox, PlacedRow } from "./placed";
import { useDrawn, worstOf } from "./use-drawn";

/** A power station: its battery, and in rows at its edge what goes in and what comes out. */
export function StationBox({ box, station }: { box: PlacedBox; station: Station }) {
  const { evaluation } = useDrawn();
  const wh = evaluation.figures[`store.${station.id}.wh`]?.value ?? station.label_wh;
  const what = `station · ${quantity(wh, "Wh")}`;
  return (
    <>
      <Thing id={station.id} words={`${station.name}: ${what}`}>
        <Frame box={box} title={station.name} lines={[what]} />
      </Thing>
      {box.rows?.map((row) => (
        <EdgeRow key={row.id} row={row} box={box} />
      ))}
    </>
  );
}

/** An input at the left edge, an outlet at the right one. */
function EdgeRow({ row, box }: { row: PlacedRow; box: PlacedBox }) {
  const { design, evaluation, selected } = useDrawn();
  const link = design.links.find((one) => one.id === row.id);
  const found = outletsOf(design).find(({ outlet }) => outlet.id === row.id);
  const worst = worstOf(evaluation.findings, row.id);
  const text = link ? leadWords(link, evaluation.links) : found ? outletWords(found.outlet) : "";
  const name = link?.name ?? found?.outlet.name ?? "";
  const out = row.kind === "outlet";
  const colour = worst ? `var(--${worst.severity})` : "var(--edge)";
  return (
    <Thing id={row.id} words={name}>
      <rect
        x={box.x + (out ? 16 : 0)}
        y={row.y - 9}
        width={box.w - 16}
        height={18}
        rx={3}
        fill={selected === row.id ? "var(--river-wash)" : "var(--bench)"}
        stroke={colour}
        strokeWidth={worst ? 1.8 : 1}
        className="ring"
      />
      <text
        x={out ? box.x + box.w - 6 : box.x + 6}
        y={row.y + 4}
        fontSize={11.5}
        textAnchor={out ? "end" : "start"}
        fill={worst ? colour : "var(--ink)"}
        fontWeight={worst ? 700 : 400}
      >
        {worst ? `${SEVERITIES[worst.severity].shape} ${SEVERITIES[worst.severity].word}: ` : ""}
        {cut(text, worst ? 18 : 25)}
      </text>
    </Thing>
  );
}

/** A lead to a store that is drawn elsewhere; or, where it is narrow, the one before a station. */
export function LeadBox({ box, link }: { box: PlacedBox; link: Lead }) {
  const { design, evaluation } = useDrawn();
  const to = namesOf(design).get(link.to) ?? "";
  const words = leadWords(link, evaluation.links);
  return (
    <Thing id={link.id} words={`${link.name}, to ${to}: ${words}`}>
      <Frame box={box} title={link.charger ? link.name : `→ ${to}`} lines={[words]} />
    </Thing>
  );
}

/** An outlet as a box of its own, where it is narrow. */
export function OutletBox({ box, outlet }: { box: PlacedBox; outlet: Outlet }) {
  return (
    <Thing id={outlet.id} words={outlet.name}>
      <Frame box={box} title={outletWords(outlet)} lines={[]} />
    </Thing>
  );
}

export function outletWords(outlet: Outlet): string {
  if (outlet.kind === "ac") return `${outlet.name} · ${quantity(outlet.continuous_w, "W")}`;
  const gives = outlet.volts ? quantity(outlet.volts, "V") : "sagging";
  return `${outlet.name} · ${gives}`;
}

const MISFITS: Record<LinkRow["fit"], string> = {
  fits: "",
  "above its maximum": "too many volts",
  "never reaches its minimum": "too few volts",
  "not above the inner battery": "only steps down",
};

/** What a cable brings, in few words. */
export function leadWords(link: Lead, rows: readonly LinkRow[]): string {
  const row = rows.find((one) => one.id === link.id);
  if (!row) return link.name;
  if (row.fit !== "fits") return MISFITS[row.fit];
  if (link.charger)
    return `${link.charger.kind.replace(" controller", "")} · ${quantity(row.given_a, "A")}`;
  const mode = link.mode ? `${link.mode}: ` : "";
  return `${mode}${quantity(row.watts, "W")}`;
}
