import type { Reference } from "../../api/types";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { NumberField } from "../../editor/NumberField";
import { quantity } from "../../lib/format";
import { Button } from "../../ui/Button";

type Assumption = Reference["assumptions"][number];

/** What is taken for granted, each with its reason; a design may say otherwise. */
export default function AssumptionsPanel() {
  const { reference } = useWorked();
  return (
    <div>
      <p className="max-w-160 text-soft text-sm">
        Defaults where schools differ or nothing better is known. What you set here holds for this
        design alone.
      </p>
      <ul className="mt-2">
        {reference.assumptions.map((assumption) => (
          <AssumptionLine key={assumption.key} assumption={assumption} />
        ))}
      </ul>
    </div>
  );
}

function AssumptionLine({ assumption }: { assumption: Assumption }) {
  const { reference } = useWorked();
  const own = useDesign((state) => state.document?.assumptions[assumption.key]);
  const change = useDesign((state) => state.change);
  const { key, unit } = assumption;
  const share = unit === "share";
  const set = (value: number | null) =>
    change(
      assumption.name,
      (design) => {
        const { [key]: _, ...rest } = design.assumptions;
        return { ...design, assumptions: value === null ? rest : { ...rest, [key]: value } };
      },
      `assumption.${key}`,
    );
  return (
    <li className="flex flex-wrap items-center gap-x-4 gap-y-1 border-line border-t py-1.5">
      <span className="min-w-60 flex-1 text-sm">
        {assumption.name}
        <span className="block text-soft text-xs">
          {assumption.help} {reference.sources[assumption.source]?.text}
        </span>
      </span>
      <NumberField
        label={assumption.name}
        as={share ? "share" : "number"}
        unit={share ? "%" : unit === "x" ? "×" : unit}
        value={own ?? assumption.value}
        path={`/assumptions/${key}`}
        onChange={set}
      />
      <span className="w-36">
        {own === undefined ? null : (
          <Button look="quiet" onClick={() => set(null)}>
            back to {quantity(assumption.value, unit === "x" ? "×" : unit)}
          </Button>
        )}
      </span>
    </li>
  );
}
