import { type RefObject, useState } from "react";
import { api } from "../api/client";
import type { Figure } from "../api/types";
import { useDesign } from "../design/store";
import { useAnswer } from "../design/use-answer";
import { useWorked } from "../design/use-evaluation";
import { number, quantity } from "../lib/format";
import { AnchoredPopover } from "../ui/AnchoredPopover";

interface WorkingPopoverProps {
  of: string;
  button: RefObject<HTMLButtonElement | null>;
  onClose: () => void;
}

/** Made only while it is open: a screen has a hundred figures. */
export default function WorkingPopover({ of, button, onClose }: WorkingPopoverProps) {
  const { evaluation } = useWorked();
  // Figures looked into from here, the deepest last.
  const [trail, setTrail] = useState<string[]>([]);
  return (
    <AnchoredPopover
      button={button}
      label="Working"
      className="max-h-[70vh] w-[min(26rem,92vw)] overflow-y-auto text-sm"
      arrow
      onClose={onClose}
    >
      {trail.length ? (
        <button
          type="button"
          className="mb-1 text-river text-xs underline"
          onClick={() => setTrail(trail.slice(0, -1))}
        >
          back to {evaluation.figures[trail.at(-2) ?? of]?.name}
        </button>
      ) : null}
      <Working figureKey={trail.at(-1) ?? of} onOpen={(key) => setTrail([...trail, key])} />
    </AnchoredPopover>
  );
}

/** What was measured on the part of a figure, beside its label; the Bench book has the rest. */
function Measured({ subject }: { subject: string }) {
  const measured = useDesign((state) => state.document?.measured);
  const mine = (measured ?? []).filter((one) => one.subject === subject);
  if (!mine.length) return null;
  return (
    <ul className="mt-2" data-part="measured">
      {mine.map((one) => (
        <li key={one.name}>
          {one.name}: label {one.label_says}, measured {one.measured_says}; the {one.counts} figure
          counts.
        </li>
      ))}
    </ul>
  );
}

interface WorkingProps {
  figureKey: string;
  onOpen: (key: string) => void;
}

/** The arithmetic behind one figure, asked for with that of all others. */
function Working(props: WorkingProps) {
  const { workings } = useWorked();
  const { data, error } = useAnswer("workings", api.workings, { enabled: !workings });
  const known = workings ?? data;
  if (known) return <Sum {...props} workings={known} />;
  return <p role="status">{error ? error.message : "Writing the sum …"}</p>;
}

function Sum({ figureKey, onOpen, workings }: WorkingProps & { workings: Record<string, Figure> }) {
  const { reference } = useWorked();
  const figure = workings[figureKey];
  if (!figure) return null;
  const terms = Object.entries(figure.terms);
  return (
    <div data-working={figureKey}>
      <h3 className="text-base">{figure.name}</h3>
      <p className="mt-1 text-soft">{written(figure, (_, name) => name)}</p>
      <p className="mt-1" data-part="sum">
        {written(figure, (value, _, unit) => `${precise(value, unit)}`)} ={" "}
        <strong>{quantity(figure.value, figure.unit)}</strong>
      </p>
      <table className="mt-2 w-full">
        <tbody>
          {terms.map(([symbol, term]) => (
            <tr key={symbol} className="border-line border-t">
              <th scope="row" className="py-0.5 text-left font-normal">
                {term.name}
              </th>
              <td className="text-right whitespace-nowrap">
                {term.figure ? (
                  <button
                    type="button"
                    className="figure"
                    onClick={() => onOpen(term.figure as string)}
                  >
                    {precise(term.value, term.unit)}
                  </button>
                ) : (
                  precise(term.value, term.unit)
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      {figure.note ? <p className="mt-2">{figure.note}</p> : null}
      <Measured subject={figureKey.split(".")[1] ?? ""} />
      <ul className="mt-2 text-xs text-soft">
        {figure.sources.map((key) => {
          const source = reference.sources[key];
          return source ? (
            <li key={key}>
              {source.text}
              {source.text.toLowerCase().includes(source.mark) ? "" : ` (${source.mark})`}
            </li>
          ) : null;
        })}
      </ul>
    </div>
  );
}

/** The numbers put in, to four figures: enough to follow the sum. */
function precise(value: number, unit: string): string {
  if (unit === "h") return `${number(value, 4)} h`;
  return quantity(value, unit, 4);
}

function written(
  figure: Figure,
  write: (value: number, name: string, unit: string) => string,
): string {
  return figure.expression.replace(/\{(\w+)\}/g, (mark, symbol: string) => {
    const term = figure.terms[symbol];
    return term ? write(term.value, term.name, term.unit) : mark;
  });
}
