import { useNotice } from "../lib/notice";
import { saveFile } from "../lib/save-file";
import { Button } from "./Button";

interface CsvButtonProps {
  children: string;
  /** Name of the file, where the clipboard is closed to the page. */
  file: string;
  /** What a line of it is, for the notice: points, runs. */
  lines: string;
  load: () => Promise<string>;
}

/** Copies a table as CSV; saves it as a file where the clipboard is closed. */
export function CsvButton({ children, file, lines, load }: CsvButtonProps) {
  const notify = useNotice((state) => state.notify);
  const copy = async () => {
    try {
      const text = await load();
      const count = text.trimEnd().split("\n").length - 1;
      try {
        await navigator.clipboard.writeText(text);
        notify(`Copied ${count} ${lines} as CSV.`);
      } catch {
        saveFile(new Blob([text], { type: "text/csv" }), file);
        notify(`The clipboard is closed to this page: ${count} ${lines} are in ${file}.`);
      }
    } catch (error) {
      notify(`Not copied: ${(error as Error).message}`);
    }
  };
  return (
    <Button look="quiet" onClick={() => void copy()}>
      {children}
    </Button>
  );
}
