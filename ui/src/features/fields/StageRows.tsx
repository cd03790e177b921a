import type { Converter, Inverter } from "../../api/types";
import { useWorked } from "../../design/use-evaluation";
import { NumberField } from "../../editor/NumberField";
import { useProblem } from "../../editor/use-problem";
import { WindowStrip } from "../../pictures/WindowStrip";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";

/** What inverters and converters have in common. */
type Common = Pick<Inverter, "accepts" | "restarts_v">;

interface StageRowProps {
  stage: Common;
  /** First word of the names that screen readers say. */
  label: string;
  /** Where the stage is in the document. */
  at: string;
  set: (field: string, part: Partial<Common>) => void;
}

/** Volts it accepts: cut-out, maximum, and from where on it restarts. */
export function AcceptsRow({ stage, label, at, set }: StageRowProps) {
  const { accepts, restarts_v } = stage;
  return (
    <Row name="Accepts" help="cut-out to maximum">
      <NumberField
        label={`${label} cut-out volts`}
        width="w-16"
        value={accepts.least_v}
        path={`${at}/accepts/least_v`}
        onChange={(least_v) => set("cut-out", { accepts: { ...accepts, least_v } })}
      />
      to
      <NumberField
        label={`${label} maximum volts`}
        width="w-16"
        unit="V"
        value={accepts.most_v}
        path={`${at}/accepts/most_v`}
        onChange={(most_v) => set("maximum", { accepts: { ...accepts, most_v } })}
      />
      <NumberField
        label={`${label} restart volts`}
        unit="V back"
        width="w-14"
        placeholder="rule"
        value={restarts_v ?? null}
        path={`${at}/restarts_v`}
        onChange={(value) => set("restart", { restarts_v: value })}
        onClear={() => set("restart", { restarts_v: null })}
      />
      <Problem path={`${at}/accepts`} />
      <Problem path={at} />
    </Row>
  );
}

/** What is refused as a whole, not at one of its fields: a window upside down. */
function Problem({ path }: { path: string }) {
  const found = useProblem(path);
  return found ? (
    <span role="alert" className="text-sm text-stop">
      {found}
    </span>
  ) : null;
}

interface SwitchedRowProps {
  stage: Inverter | Converter;
  label: string;
  set: (field: string, part: Pick<Inverter, "switched">) => void;
}

export function SwitchedRow({ stage, label, set }: SwitchedRowProps) {
  return (
    <Row name="Switched">
      <Choose
        label={`${label} switched`}
        value={stage.switched}
        options={[
          ["always on", "always on"],
          ["on with its loads", "on with its loads only"],
        ]}
        onChange={(switched) => set("switched", { switched })}
      />
    </Row>
  );
}

/** What arrives on what it accepts. */
export function VoltsRow({ id }: { id: string }) {
  const { evaluation } = useWorked();
  const joint = evaluation.joints.find((one) => one.subject === id);
  return joint ? (
    <Row name="Volts" help="what arrives on what is accepted">
      <WindowStrip joint={joint} width={220} />
    </Row>
  ) : null;
}

interface ResetsRowProps {
  value: "by hand" | "by itself";
  /** First words of the name that screen readers say. */
  label: string;
  set: (field: string, part: { resets: "by hand" | "by itself" }) => void;
}

/** How it restarts after an overload. */
export function ResetsRow({ value, label, set }: ResetsRowProps) {
  return (
    <Row name="After an overload" help="it restarts">
      <Choose
        label={`${label}: after an overload`}
        value={value}
        options={[
          ["by hand", "when a person resets it"],
          ["by itself", "by itself"],
        ]}
        onChange={(resets) => set("reset", { resets })}
      />
    </Row>
  );
}
