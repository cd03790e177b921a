import type { Bank, Battery } from "../api/types";
import { bankKey, bankOf, withBank, withBattery } from "../design/edits";
import { useDesign } from "../design/store";
import { useWorked } from "../design/use-evaluation";
import { Choose } from "../parts/Choose";
import { FigureButton } from "../parts/FigureButton";
import { NumberField } from "../parts/NumberField";
import { Group, Row } from "../parts/Row";
import { TextField } from "../parts/TextField";
import { useSettings } from "../shell/settings";
import { celsius, fahrenheit } from "../units/format";
import { BankPicture, bankPictureSize } from "./BankPicture";
import { PROVENANCES } from "./words";

/** The battery, how many in series and parallel, what is kept back; and what that makes. */
export function BankPanel() {
  const { evaluation, reference } = useWorked();
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  if (!design) return null;
  const bank = bankOf(design);
  const wiring = evaluation.wirings.find((one) => one.store === bank.id);
  if (!wiring) return null;
  const { battery } = bank;
  const set = (field: string, part: Partial<Bank>) =>
    change(`bank: ${field}`, (d) => withBank(d, part), `bank.${field}`);
  const setBattery = (field: string, part: Partial<Battery>) =>
    change(`battery: ${field}`, (d) => withBattery(d, part), `battery.${field}`);
  const choose = (key: Battery["chemistry"]) => {
    const facts = reference.chemistries.find((c) => c.key === key);
    change("battery: chemistry", (d) =>
      withBank(withBattery(d, { chemistry: key, peukert: null }), {
        keep_back: facts?.keep_back ?? bank.keep_back,
      }),
    );
  };
  const size = bankPictureSize(bank.series, bank.parallel);
  const at = "/stores/0";
  return (
    <div className="grid gap-x-10 lg:grid-cols-2">
      <div>
        <Group title="Battery">
          <Row name="Name">
            <TextField
              label="Battery name"
              className="sm:w-72"
              value={battery.name}
              path={`${at}/battery/name`}
              onChange={(name) => setBattery("name", { name })}
            />
          </Row>
          <Row name="Chemistry">
            <Choose
              label="Chemistry"
              value={battery.chemistry}
              options={reference.chemistries.map((c) => [c.key, c.name] as const)}
              onChange={choose}
            />
          </Row>
          <Row name="Volts and charge" help="of one battery, as labelled">
            <NumberField
              label="Battery volts"
              unit="V"
              value={battery.volts}
              path={`${at}/battery/volts`}
              onChange={(volts) => setBattery("volts", { volts })}
            />
            <NumberField
              label="Battery Ah"
              unit="Ah"
              value={battery.ah}
              path={`${at}/battery/ah`}
              onChange={(ah) => setBattery("ah", { ah })}
            />
          </Row>
          <Row name="Continuous current" help="its BMS lets through; empty if it has none">
            <NumberField
              label="BMS continuous current"
              unit="A"
              placeholder="none"
              value={battery.bms_a ?? null}
              path={`${at}/battery/bms_a`}
              onChange={(bms_a) => setBattery("BMS", { bms_a })}
              onClear={() => setBattery("BMS", { bms_a: null })}
            />
          </Row>
          <Row name="Known from">
            <Choose
              label="Battery known from"
              value={battery.provenance}
              options={PROVENANCES}
              onChange={(provenance) => setBattery("known from", { provenance })}
            />
          </Row>
        </Group>
        <Group title="Bank">
          <Row name="In series × parallel">
            <NumberField
              label="Batteries in series"
              as="whole"
              width="w-14"
              unit="S"
              value={bank.series}
              path={`${at}/series`}
              onChange={(series) => set("series", { series })}
            />
            <NumberField
              label="Strings in parallel"
              as="whole"
              width="w-14"
              unit="P"
              value={bank.parallel}
              path={`${at}/parallel`}
              onChange={(parallel) => set("parallel", { parallel })}
            />
          </Row>
          <Row name="Kept back" help="less taken out, longer life">
            <NumberField
              label="Kept back"
              as="share"
              unit="%"
              width="w-14"
              value={bank.keep_back}
              path={`${at}/keep_back`}
              onChange={(keep_back) => set("kept back", { keep_back })}
            />
            <input
              type="range"
              min={0}
              max={0.9}
              step={0.05}
              aria-label="Kept back, slider"
              className="w-32 accent-river"
              value={bank.keep_back}
              onChange={(event) => set("kept back", { keep_back: Number(event.target.value) })}
            />
          </Row>
          <Row name="Charge at the start" help="100 % is full">
            <NumberField
              label="Charge at the start"
              as="share"
              unit="%"
              width="w-14"
              value={bank.starts_at}
              path={`${at}/starts_at`}
              onChange={(starts_at) => set("charge at the start", { starts_at })}
            />
          </Row>
          <Row name="Stands in">
            <Choose
              label="Where the bank stands"
              value={bank.location}
              options={[
                ["living space", "a living space"],
                ["vented box", "a box vented to the outside"],
                ["outside", "the open"],
              ]}
              onChange={(location) => set("place", { location })}
            />
          </Row>
          <Ambient />
        </Group>
      </div>
      <div>
        <Group title="What that makes">
          <Row name="Volts, charge">
            <FigureButton of={bankKey(design, "volts")} className="font-semibold" />
            <FigureButton of={bankKey(design, "ah")} className="font-semibold" />
          </Row>
          <Row name="Energy by the label">
            <FigureButton of={bankKey(design, "wh")} className="font-semibold" />
          </Row>
          <Row name="Usable here">
            <FigureButton of={bankKey(design, "usable")} className="font-semibold" />
            <span className="text-soft text-sm">
              cold <FigureButton of={bankKey(design, "temperature_factor")} digits={2} /> · rate{" "}
              <FigureButton of={bankKey(design, "peukert_factor")} digits={2} />
            </span>
          </Row>
          <Row name="Current it may give">
            <FigureButton of={bankKey(design, "give_a")} className="font-semibold" />
            <span className="text-soft text-sm">
              kind for long <FigureButton of={bankKey(design, "kind_a")} />
            </span>
          </Row>
          <Row name="With all running">
            <span className="text-sm">
              quick <FigureButton of={bankKey(design, "running_quick_a")} /> · design{" "}
              <FigureButton of={bankKey(design, "running_design_a")} className="font-semibold" />
            </span>
          </Row>
          <Row name="Empty to full charge">
            <span className="text-sm">
              <FigureButton of={bankKey(design, "empty_v")} /> to{" "}
              <FigureButton of={bankKey(design, "full_v")} />
            </span>
          </Row>
        </Group>
        <Group title="How it is joined">
          <svg
            viewBox={`-6 -6 ${size.width + 12} ${size.height + 12}`}
            style={{ width: Math.min(size.width * 1.15, 460) }}
            className="max-w-full"
            role="group"
            aria-label="The bank"
          >
            <BankPicture bank={bank} wiring={wiring} />
          </svg>
          <p className="mt-2 max-w-100 text-sm">
            <span aria-hidden="true" className="text-plus">
              ●
            </span>{" "}
            plus and{" "}
            <span aria-hidden="true" className="text-ink">
              ●
            </span>{" "}
            minus are the take-off points. {wiring.text}
          </p>
        </Group>
      </div>
    </div>
  );
}

function Ambient() {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const unit = useSettings((state) => state.temperature);
  if (!design) return null;
  const { ambient_c } = design.setting;
  const set = (value: number) =>
    change(
      "temperature",
      // One figure in the place of one for each hour, if there were such.
      (d) => ({ ...d, setting: { ...d.setting, ambient_c: value, ambient_by_hour: null } }),
      "setting.ambient",
    );
  return (
    <Row name="Temperature there">
      <NumberField
        key={unit}
        label="Ambient temperature"
        unit={`°${unit}`}
        width="w-16"
        value={unit === "C" ? ambient_c : fahrenheit(ambient_c)}
        path="/setting/ambient_c"
        onChange={(value) => set(unit === "C" ? value : celsius(value))}
      />
    </Row>
  );
}
