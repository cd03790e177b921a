import type { ReactNode } from "react";
import type { Choice, WorkedNeeded } from "../../api/types";
import { bankKey, inverterKey } from "../../design/edits";
import { useDesign } from "../../design/store";
import { FigureButton } from "../../editor/FigureButton";
import { quantity } from "../../lib/format";
import { Button } from "../../ui/Button";

type Needed = NonNullable<WorkedNeeded["needed"]>;
/** Takes edits as one step, by its name. */
export type OnUse = (what: string, edits: Choice["edits"]) => void;

/** The most batteries in parallel that a document may hold. */
const MAX_PARALLEL = 32;

interface WhiteboardProps {
  needed: Needed;
  onUse: OnUse;
}

/** The sums in the order they are done by hand, each figure open to its working. */
export function Whiteboard({ needed, onUse }: WhiteboardProps) {
  const design = useDesign((state) => state.document);
  const present = needed.choices.find((choice) => choice.present);
  const usual = needed.choices.find((choice) => choice.recommended);
  if (!design || !present) return null;
  const key = `needed.${present.series}s`;
  const battery = design.stores[0]?.kind === "bank" ? design.stores[0].battery.name : "";
  return (
    <section className="min-w-0" data-part="whiteboard">
      <h3 className="mb-1 text-base">The sums, in order</h3>
      <ol className="rounded-lg border border-edge bg-card px-3 py-1">
        <Step name="Energy" says="until the goal, with both margins">
          <FigureButton of="needed.wh" className="font-semibold" />
          <span className="text-soft">
            usable now <FigureButton of={bankKey(design, "usable")} />
          </span>
        </Step>
        <Step name="Charge" says="the same in amp-hours">
          {[12, 24, 48].map((volts) => (
            <span key={volts}>
              <FigureButton of={`needed.ah_${volts}`} /> at {volts} V
            </span>
          ))}
        </Step>
        <Step name="Batteries" says={`${present.series} in series of ${battery}; in parallel`}>
          <Count of={`${key}.by_energy`} by="energy" decides={present.decides === "energy"} />
          {present.by_current === null ? null : (
            <Count of={`${key}.by_current`} by="current" decides={present.decides === "current"} />
          )}
          <Count
            of={`${key}.by_long_life`}
            by="long life"
            decides={present.decides === "long_life"}
          />
        </Step>
        <Step name="Inverter" says="continuous and at the highest start">
          {needed.inverter_w > 0 ? (
            <>
              <FigureButton of="needed.inverter_w" className="font-semibold" />
              <span>
                <FigureButton of={inverterKey(design, "worst_start_w")} /> start
              </span>
              <span data-part="size">common size {quantity(needed.size_w, "W")}</span>
            </>
          ) : (
            <span className="text-soft">no mains load, so none</span>
          )}
        </Step>
        <Step name="Current" says="out of the bank, everything running">
          <span>
            <FigureButton of={`${key}.quick_a`} /> at nominal volts
          </span>
          <span>
            <FigureButton of={`${key}.design_a`} className="font-semibold" /> at lowest volts
          </span>
        </Step>
        <Step name="Cable, fuse" says="of the bank and its inverter">
          {needed.cables.length ? (
            needed.cables.map((one) => (
              <span key={one.name} className="basis-full" data-part="needed-cable">
                {one.name}: {one.count > 1 ? `${one.count} × ` : ""}
                <strong>{one.cable ?? "no size does"}</strong>
                {one.fuse_a === null
                  ? ""
                  : `, fuse ${quantity(one.fuse_a, "A")}${one.fuse_kind ? `, ${one.fuse_kind}` : ""}`}
              </span>
            ))
          ) : (
            <span className="text-soft">after the bank is chosen</span>
          )}
        </Step>
        <Step name="Charger" says="gentle, 0.2C">
          <FigureButton of={`${key}.charger_a`} />
        </Step>
      </ol>
      {usual && !usual.present ? (
        <p className="mt-1.5 text-sm">
          {quantity(usual.system_v, "V")} is usual at this power; the currents are lower. See below.
        </p>
      ) : null}
      <MakeIt present={present} size={needed.size_w} onUse={onUse} />
    </section>
  );
}

interface StepProps {
  name: string;
  says: string;
  children: ReactNode;
}

function Step({ name, says, children }: StepProps) {
  return (
    <li className="flex flex-wrap items-baseline gap-x-4 border-line border-b py-1.5 text-sm last:border-b-0">
      <span className="w-full sm:w-52">
        <strong className="font-head">{name}</strong>{" "}
        <span className="text-soft text-xs">{says}</span>
      </span>
      <span className="flex min-w-0 flex-1 flex-wrap gap-x-4">{children}</span>
    </li>
  );
}

function Count({ of, by, decides }: { of: string; by: string; decides: boolean }) {
  return (
    <span className={decides ? "font-bold text-river" : ""}>
      <FigureButton of={of} /> by {by}
      {decides ? " ◂ decides" : ""}
    </span>
  );
}

interface MakeItProps {
  present: Choice;
  size: number;
  onUse: OnUse;
}

/** One button that makes the sums the design, or why it is not offered. */
function MakeIt({ present, size, onUse }: MakeItProps) {
  if (present.edits.length) {
    return (
      <p className="mt-2">
        <Button
          look="main"
          onClick={() => onUse("use the suggestion", present.edits)}
          data-take="present"
        >
          Make it the design: {present.series}S {present.parallel}P
          {size > 0 ? " and the inverter for it" : ""}
        </Button>
      </p>
    );
  }
  return (
    <p className="mt-2 max-w-100 text-sm" data-part="not-offered">
      {present.parallel > MAX_PARALLEL
        ? "With this battery it is out of reach: more than 32 in parallel. Choose a larger battery or a shorter goal."
        : `${present.parallel} in parallel would add a danger, such as a fuse that cannot interrupt their short circuit. Solve that first, on Cables.`}
    </p>
  );
}
