import type { Cut } from "../../api/types";
import { lengthOf } from "../../lib/own-units";

const TITLES: Record<Cut["kind"], string> = {
  cable: "Cable",
  lug: "Lugs",
  "heat-shrink": "Heat-shrink",
  fuse: "Fuses",
  holder: "Holders",
  connector: "Connectors, pairs",
  "bus bar": "Bus bars",
  shunt: "Shunts",
};

/** What is bought and cut: lengths by size and colour, lugs, fuses, holders, with totals. */
export function CutList({ cuts }: { cuts: readonly Cut[] }) {
  if (!cuts.length) return null;
  const metres = cuts.reduce((sum, cut) => sum + (cut.metres ?? 0), 0);
  const kinds = [...new Set(cuts.map((cut) => cut.kind))];
  return (
    <section aria-label="Cut list">
      <h2 className="text-lg">
        Cut list <span className="font-normal text-soft text-sm">{lengthOf(metres)} in all</span>
      </h2>
      <table className="mt-1 w-full text-sm" data-part="cut-list">
        <tbody>
          {kinds.map((kind) => (
            <Kind key={kind} kind={kind} cuts={cuts.filter((cut) => cut.kind === kind)} />
          ))}
        </tbody>
      </table>
      <p className="mt-1 text-soft text-xs">
        Dashed: nobody has chosen it yet. Cut a little longer than measured.
      </p>
    </section>
  );
}

function Kind({ kind, cuts }: { kind: Cut["kind"]; cuts: readonly Cut[] }) {
  const count = cuts.reduce((sum, cut) => sum + cut.count, 0);
  const metres = cuts.reduce((sum, cut) => sum + (cut.metres ?? 0), 0);
  return (
    <>
      <tr className="border-line border-t">
        <th scope="rowgroup" className="pt-1.5 text-left font-semibold">
          {TITLES[kind]}
        </th>
        <td className="pt-1.5 text-right font-semibold">{metres ? lengthOf(metres) : count}</td>
        <td />
      </tr>
      {cuts.map((cut) => (
        <tr key={cut.item} data-cut={`${cut.kind} ${cut.item}`} data-proposed={cut.proposed}>
          <td className="pl-3">
            <span className={cut.proposed ? "border-edge border-b border-dashed" : ""}>
              {cut.item}
            </span>
          </td>
          <td className="whitespace-nowrap px-3 text-right">
            {cut.metres === null ? cut.count : lengthOf(cut.metres)}
          </td>
          <td className="text-soft text-xs">
            {cut.pieces.length ? `${pieces(cut.pieces)} · ` : ""}
            {cut.runs.join(", ")}
          </td>
        </tr>
      ))}
    </>
  );
}

/** Lengths as cut, alike ones together: 2 × 1.5 m + 0.5 m. */
function pieces(lengths: readonly number[]): string {
  const counts = new Map<number, number>();
  for (const length of lengths) counts.set(length, (counts.get(length) ?? 0) + 1);
  return [...counts]
    .map(([length, count]) => `${count > 1 ? `${count} × ` : ""}${lengthOf(length)}`)
    .join(" + ");
}
