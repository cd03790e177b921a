import { type ChangeEvent, useState } from "react";
import { api } from "../../api/client";
import type { CsvRow, KeptPart } from "../../api/types";
import { Button } from "../../ui/Button";
import { Modal } from "../../ui/Modal";
import { describe } from "./parts";

interface ImportDialogProps {
  shelf: readonly KeptPart[];
  onTake: (rows: readonly CsvRow[]) => void;
  onClose: () => void;
}

/** A CSV file read row by row; nothing is taken before it is asked for. */
export function ImportDialog({ shelf, onTake, onClose }: ImportDialogProps) {
  const [rows, setRows] = useState<readonly CsvRow[] | null>(null);
  const [failed, setFailed] = useState("");
  const [file, setFile] = useState("");
  const read = async (event: ChangeEvent<HTMLInputElement>) => {
    const given = event.target.files?.[0];
    if (!given) return;
    setFile(given.name);
    setRows(null);
    setFailed("");
    try {
      setRows(await api.readCsv(await given.text()));
    } catch (error) {
      setFailed((error as Error).message);
    }
  };
  const names = new Set(shelf.map((kept) => kept.part.name));
  const good = rows?.filter((row) => row.part) ?? [];
  const bad = rows?.filter((row) => !row.part) ?? [];
  return (
    <Modal title="Parts from a CSV file" name="import" wide onClose={onClose}>
      <p className="mt-2 max-w-160 text-sm">
        One row a part, one column a figure; the first line names the columns as an exported file
        does. Nothing is put on the shelf before you confirm.
      </p>
      <input
        type="file"
        accept=".csv,text/csv"
        className="mt-3 block text-sm"
        aria-label="CSV file"
        onChange={(event) => void read(event)}
      />
      {failed ? (
        <p role="alert" className="mt-3 rounded border border-stop p-2 text-sm text-stop">
          {file}: {failed}
        </p>
      ) : null}
      {rows ? (
        <>
          <p className="mt-3 text-sm" role="status" data-part="preview-count">
            {rows.length === 0
              ? "The file names columns but holds no parts."
              : `${good.length} good, ${bad.length} with something wrong.`}
          </p>
          <div className="mt-1 max-h-[45vh] overflow-y-auto">
            <table className="w-full text-sm">
              <thead>
                <tr className="border-line border-b text-left text-soft">
                  <th className="font-medium">Line</th>
                  <th className="font-medium">Part</th>
                  <th className="font-medium">Read as</th>
                </tr>
              </thead>
              <tbody>
                {rows.map((row) => (
                  <tr
                    key={row.line}
                    className="border-line border-b align-top"
                    data-row={row.line}
                    data-good={row.part !== null}
                  >
                    <td className="pr-3">{row.line}</td>
                    <td className="pr-3">{row.name || "–"}</td>
                    <td>
                      {row.part ? (
                        <>
                          <span className="text-moss">✓</span> {describe(row.part)}
                          {names.has(row.name) ? (
                            <span className="text-watch">
                              {" "}
                              ◆ one of that name is on the shelf already
                            </span>
                          ) : null}
                        </>
                      ) : (
                        row.problems.map((problem) => (
                          <p key={problem.column + problem.message} className="text-stop">
                            ⬣ {problem.column ? `${problem.column} ` : ""}
                            {problem.message}
                          </p>
                        ))
                      )}
                    </td>
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </>
      ) : null}
      <div className="mt-4 flex justify-end gap-2">
        <Button onClick={onClose}>Cancel</Button>
        <Button look="main" disabled={!good.length} onClick={() => onTake(good)}>
          {bad.length ? `Import the ${good.length} good rows` : `Import ${good.length} parts`}
        </Button>
      </div>
    </Modal>
  );
}
