import { useState } from "react";
import type { Lead, Load, Stage } from "../api/types";
import { wired } from "../design/cable-text";
import { namesOf } from "../design/edits";
import { quantity } from "../lib/format";
import { SEVERITIES } from "../pictures/severities";
import { kindOf, voltsOf } from "./Boxes";
import { leadWords, outletWords } from "./StationBox";
import { type Box, type Branch, treeOf } from "./tree";
import { ampsOf, useDrawn, worstOf } from "./use-drawn";

/** The drawing in words: the same things, volts and amps, as nested lists. */
export function Words() {
  const [open, setOpen] = useState(false);
  return (
    <details
      className="no-print text-sm"
      data-part="words"
      onToggle={(event) => setOpen(event.currentTarget.open)}
    >
      <summary className="px-1 text-soft text-xs">The drawing in words</summary>
      {open ? <Stores /> : null}
    </details>
  );
}

function Stores() {
  const { design } = useDrawn();
  const tree = treeOf(design);
  return (
    <ul className="list-disc pl-5">
      {tree.roots.map((root) => (
        <li key={root.id}>
          <StoreWords id={root.id} />
          {root.kind === "store" ? <Hanging branch={root.branch} /> : <Outlets box={root} />}
        </li>
      ))}
      {tree.loose.map((load) => (
        <li key={load.id}>{load.name} is not connected yet.</li>
      ))}
    </ul>
  );
}

function StoreWords({ id }: { id: string }) {
  const drawn = useDrawn();
  const store = drawn.design.stores.find((one) => one.id === id);
  const volts = drawn.moment?.volts[id];
  return (
    <>
      {store?.name}
      {volts === undefined ? "" : `, ${quantity(volts, "V")}`}, gives{" "}
      {quantity(ampsOf(drawn, id, "out"), "A")}.
      <Wired subject={id} />
    </>
  );
}

function Hanging({ branch }: { branch: Branch }) {
  if (!branch.limbs.length && !branch.loads.length) return null;
  return (
    <ul className="list-disc pl-5">
      {branch.limbs.map((limb) => (
        <li key={limb.id}>
          {limb.kind === "stage" ? (
            <>
              <StageWords stage={limb.stage} />
              <Hanging branch={limb.branch} />
            </>
          ) : null}
          {limb.kind === "lead" ? <LeadWords link={limb.lead} /> : null}
          {limb.kind === "station" ? (
            <>
              {limb.lead ? <LeadWords link={limb.lead} /> : null} <StoreWords id={limb.id} />
              <Outlets box={limb} />
            </>
          ) : null}
        </li>
      ))}
      {branch.loads.map((load) => (
        <li key={load.id}>
          <LoadWords load={load} />
        </li>
      ))}
    </ul>
  );
}

function Outlets({ box }: { box: Box }) {
  const drawn = useDrawn();
  return (
    <ul className="list-disc pl-5">
      {box.outlets.map(({ outlet, branch }) => (
        <li key={outlet.id}>
          {outletWords(outlet)}: gives {quantity(ampsOf(drawn, outlet.id, "out"), "A")}.
          <Said subject={outlet.id} />
          <Hanging branch={branch} />
        </li>
      ))}
    </ul>
  );
}

function LeadWords({ link }: { link: Lead }) {
  const { design, evaluation } = useDrawn();
  return (
    <>
      {link.name}, to {namesOf(design).get(link.to)}: {leadWords(link, evaluation.links)}.
      <Wired subject={link.id} />
      <Volts subject={link.id} />
      <Said subject={link.id} />
    </>
  );
}

function StageWords({ stage }: { stage: Stage }) {
  const drawn = useDrawn();
  return (
    <>
      {stage.name} ({kindOf(stage)}): takes {quantity(ampsOf(drawn, stage.id, "in"), "A")}, gives{" "}
      {quantity(ampsOf(drawn, stage.id, "out"), "A")}.
      <Wired subject={stage.id} />
      <Volts subject={stage.id} />
      <Said subject={stage.id} />
    </>
  );
}

function LoadWords({ load }: { load: Load }) {
  const drawn = useDrawn();
  const amps = ampsOf(drawn, load.id, "load");
  return (
    <>
      {load.name}
      {load.count > 1 ? ` ×${load.count}` : ""}: {amps > 0 ? `takes ${quantity(amps, "A")}` : "off"}
      .<Wired subject={load.id} />
      <Volts subject={load.id} />
      <Said subject={load.id} />
    </>
  );
}

/** Size and fuse of the run to a thing. */
function Wired({ subject }: { subject: string }) {
  const { evaluation } = useDrawn();
  const wire = evaluation.wires.find((one) => one.subject === subject);
  if (!wire) return null;
  const says = wired(wire).join(", fuse ");
  return says ? <> Cable {says}.</> : null;
}

function Volts({ subject }: { subject: string }) {
  const { evaluation } = useDrawn();
  const joint = evaluation.joints.find((one) => one.subject === subject);
  if (!joint) return null;
  return <> {voltsOf(joint)}.</>;
}

function Said({ subject }: { subject: string }) {
  const { evaluation } = useDrawn();
  const worst = worstOf(evaluation.findings, subject);
  return worst ? (
    <strong>
      {" "}
      {SEVERITIES[worst.severity].word}: {worst.title}.
    </strong>
  ) : null;
}
