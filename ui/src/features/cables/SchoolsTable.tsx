import { api } from "../../api/client";
import type { CableRow, SchoolRow, SizeRow } from "../../api/types";
import { SCHOOLS, sized } from "../../design/cable-text";
import { useAnswer } from "../../design/use-answer";
import { Answered } from "../../editor/Answered";
import { quantity } from "../../lib/format";
import { Scroll } from "../../ui/Scroll";

/** Every run by each ampacity table, as if nothing were chosen: what differs is marked. */
export function SchoolsTable({ runs }: { runs: readonly CableRow[] }) {
  const answer = useAnswer("schools", api.schools);
  return (
    <Answered answer={answer} loading="Comparing the tables" failed="The tables cannot be compared">
      {(rows) => <Table runs={runs} rows={rows} />}
    </Answered>
  );
}

function Table({ runs, rows }: { runs: readonly CableRow[]; rows: readonly SchoolRow[] }) {
  const of = (subject: string, school: string) =>
    rows.find((one) => one.subject === subject && one.school === school);
  return (
    <Scroll label="Runs by each table">
      <table className="mt-1 w-full min-w-200 text-sm" data-part="schools">
        <thead className="text-left text-soft text-xs">
          <tr>
            <th className="py-1 font-normal">Run</th>
            {SCHOOLS.map(([school, name]) => (
              <th key={school} colSpan={2} className="px-3 font-normal">
                By {name}: least, one up and its fuse
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {runs.map((row) => {
            const tables = SCHOOLS.map(([school]) => of(row.subject, school));
            const differ = new Set(tables.map((one) => one?.proposed?.name)).size > 1;
            return (
              <tr key={row.subject} className="border-line border-t" data-school-row={row.subject}>
                <td
                  className="py-1.5"
                  style={{ paddingLeft: `${Math.min(row.level, 5) * 0.9}rem` }}
                >
                  <span className="font-semibold">{row.name}</span>{" "}
                  <span className="text-soft">{quantity(row.design_a, "A")}</span>
                </td>
                {tables.map((one, index) => (
                  <Pair key={SCHOOLS[index]?.[0]} one={one} differ={differ} />
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
    </Scroll>
  );
}

function Pair({ one, differ }: { one: SchoolRow | undefined; differ: boolean }) {
  const fuse = one?.fuse;
  return (
    <>
      <td className="px-3 text-soft">{named(one?.minimum)}</td>
      <td className={`px-3 ${differ ? "font-semibold" : ""}`}>
        {named(one?.proposed)}
        <span className="block font-normal text-soft text-xs">
          {one?.proposed ? `carries ${quantity(one.proposed.ampacity_a ?? 0, "A")} · ` : ""}
          {fuse ? `${fuse.amps} A ${fuse.kind_name}` : "no fuse fits"}
        </span>
      </td>
    </>
  );
}

const named = (size: SizeRow | null | undefined) =>
  size ? `${sized(size)} · ${size.other}` : "none";
