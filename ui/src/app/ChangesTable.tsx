import type { Change } from "../api/types";
import { Scroll } from "../ui/Scroll";

interface ChangesTableProps {
  /** Null while they are worked out. */
  changes: readonly Change[] | null;
  failed: Error | null;
  /** What the two sides are called. */
  before: string;
  after: string;
}

/** What differs between two versions, thing by thing, with both values. */
export function ChangesTable({ changes, failed, before, after }: ChangesTableProps) {
  if (failed) return <p className="mt-3 text-sm text-stop">Not compared: {failed.message}</p>;
  if (!changes) return <p className="mt-3 text-sm text-soft">Comparing …</p>;
  if (!changes.length) return <p className="mt-3 text-sm">They are alike.</p>;
  return (
    <Scroll label="What differs" className="mt-3 max-h-[45vh] overflow-y-auto">
      <table className="w-full text-sm" data-part="changes">
        <thead>
          <tr className="border-line border-b text-left text-soft">
            <th className="py-1 font-medium">What differs</th>
            <th className="font-medium">{before}</th>
            <th className="font-medium">{after}</th>
          </tr>
        </thead>
        <tbody>
          {changes.map((change) => (
            <tr
              key={`${change.subject} ${change.what} ${change.before} ${change.after}`}
              className="border-line border-b align-top"
            >
              <th scope="row" className="py-1 pr-3 text-left font-normal">
                {change.subject ? <strong>{change.subject}</strong> : null}{" "}
                <span className="text-soft">{change.what}</span>
              </th>
              <td className="py-1 pr-3">{change.before || "–"}</td>
              <td className="py-1">{change.after || "–"}</td>
            </tr>
          ))}
        </tbody>
      </table>
    </Scroll>
  );
}
