import type { Bank, Battery } from "../../api/types";
import { withBattery, withStore } from "../../design/edits";
import { PROVENANCES } from "../../design/labels";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { FigureButton } from "../../editor/FigureButton";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { celsius, fahrenheit, temperature } from "../../lib/format";
import { useSettings } from "../../lib/settings";
import { BankPicture, bankPictureSize } from "../../pictures/BankPicture";
import { Choose } from "../../ui/Choose";
import { Group, Row } from "../../ui/Row";
import { WireLink } from "../cables/WireLink";
import { BatteryFields } from "../fields/BatteryFields";
import { ShelfRow } from "../shelf/ShelfRow";

/** The battery, how many in series and parallel, the reserve; and what that makes. */
export function BankPanel({ bank }: { bank: Bank }) {
  const { evaluation, reference } = useWorked();
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  if (!design) return null;
  const key = (figure: string) => `store.${bank.id}.${figure}`;
  const wiring = evaluation.wirings.find((one) => one.store === bank.id);
  if (!wiring) return null;
  const { battery } = bank;
  const set = (field: string, part: Partial<Bank>) =>
    change(`bank: ${field}`, (d) => withStore<Bank>(d, bank.id, part), `bank.${field}`);
  const setBattery = (field: string, part: Partial<Battery>) =>
    change(`battery: ${field}`, (d) => withBattery(d, bank.id, part), `battery.${field}`);
  const choose = (chemistry: Battery["chemistry"]) => {
    const facts = reference.chemistries.find((c) => c.key === chemistry);
    change("battery: chemistry", (d) =>
      withStore<Bank>(withBattery(d, bank.id, { chemistry, peukert: null }), bank.id, {
        reserve: facts?.reserve ?? bank.reserve,
      }),
    );
  };
  const size = bankPictureSize(bank.series, bank.parallel);
  const at = `/stores/${design.stores.indexOf(bank)}`;
  return (
    <div className="grid grid-cols-1 gap-x-10 lg:grid-cols-2">
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
          <BatteryFields
            value={battery}
            label="Battery"
            at={`${at}/battery`}
            set={setBattery}
            chemistry={
              <Choose
                label="Chemistry"
                value={battery.chemistry}
                options={reference.chemistries.map((c) => [c.key, c.name] as const)}
                onChange={choose}
              />
            }
          />
          <Row name="Source">
            <Choose
              label="Battery source"
              value={battery.provenance}
              options={PROVENANCES}
              onChange={(provenance) => setBattery("source", { provenance })}
            />
          </Row>
          <ShelfRow subject={bank.id} copy={battery.shelf ?? null} />
        </Group>
        <Group title="Bank">
          <Row name="Name">
            <TextField
              label="Bank name"
              className="sm:w-72"
              value={bank.name}
              path={`${at}/name`}
              onChange={(name) => set("name", { name })}
            />
          </Row>
          <Row name="Use" help="a starter battery keeps what its engine needs">
            <Choose
              label="Use of the bank"
              value={bank.use}
              options={[
                ["house", "for the loads"],
                ["starter", "starts an engine"],
              ]}
              onChange={(use) => set("use", { use })}
            />
          </Row>
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
          <Row name="Reserve" help="less taken out, longer life">
            <NumberField
              label="Reserve"
              as="share"
              unit="%"
              width="w-14"
              value={bank.reserve}
              path={`${at}/reserve`}
              onChange={(reserve) => set("reserve", { reserve })}
            />
            <input
              type="range"
              min={0}
              max={0.9}
              step={0.05}
              aria-label="Reserve, slider"
              className="w-32 accent-river"
              value={bank.reserve}
              onChange={(event) => set("reserve", { reserve: Number(event.target.value) })}
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
          <Row name="Leads, main fuse">
            <WireLink subject={bank.id} />
          </Row>
          <Row name="Location">
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
        <Group title="Resulting figures">
          <Row name="Volts, charge">
            <FigureButton of={key("volts")} className="font-semibold" />
            <FigureButton of={key("ah")} className="font-semibold" />
          </Row>
          <Row name="Energy by the label">
            <FigureButton of={key("wh")} className="font-semibold" />
          </Row>
          <Row name="Usable at this temperature and current">
            <FigureButton of={key("usable")} className="font-semibold" />
            <span className="text-soft text-sm">
              cold <FigureButton of={key("temperature_factor")} digits={2} /> · rate{" "}
              <FigureButton of={key("peukert_factor")} digits={2} />
            </span>
          </Row>
          <Row name="Current it may give">
            <FigureButton of={key("give_a")} className="font-semibold" />
            <span className="text-soft text-sm">
              gentle limit (0.2C) <FigureButton of={key("gentle_a")} />
            </span>
          </Row>
          <Row name="With all running">
            <span className="text-sm">
              at nominal volts <FigureButton of={key("running_quick_a")} /> · at lowest{" "}
              <FigureButton of={key("running_design_a")} className="font-semibold" />
            </span>
          </Row>
          <Row name="Empty to full charge">
            <span className="text-sm">
              <FigureButton of={key("empty_v")} /> to <FigureButton of={key("full_v")} />
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

const SAYS = {
  C: (value: number) => temperature(value, "C"),
  F: (value: number) => temperature(value, "F"),
};

/** One temperature for the whole day, or one for each hour. */
export function Ambient() {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const unit = useSettings((state) => state.temperature);
  if (!design) return null;
  const { ambient_c, ambient_by_hour: hourly } = design.setting;
  const shown = (value: number) => (unit === "C" ? value : fahrenheit(value));
  const read = (value: number) => (unit === "C" ? value : celsius(value));
  const set = (part: Partial<typeof design.setting>) =>
    change("temperature", (d) => ({ ...d, setting: { ...d.setting, ...part } }), "setting.ambient");
  return (
    <>
      <Row name="Temperature there">
        {hourly ? null : (
          <NumberField
            key={unit}
            label="Ambient temperature"
            unit={`°${unit}`}
            width="w-16"
            value={shown(ambient_c)}
            says={SAYS[unit]}
            path="/setting/ambient_c"
            signed
            onChange={(value) => set({ ambient_c: read(value) })}
          />
        )}
        <label className="flex items-center gap-1.5 text-sm">
          <input
            type="checkbox"
            className="size-4 accent-river"
            checked={Boolean(hourly)}
            onChange={(event) =>
              set({ ambient_by_hour: event.target.checked ? Array(24).fill(ambient_c) : null })
            }
          />
          by the hour
        </label>
      </Row>
      {hourly ? (
        <fieldset className="grid grid-cols-4 gap-x-3 gap-y-1 py-1 text-sm sm:grid-cols-6">
          <legend className="sr-only">Temperature by the hour</legend>
          {hourly.map((value, hour) => (
            // biome-ignore lint/suspicious/noArrayIndexKey: the place in the list is the hour
            <span key={hour} className="flex items-center gap-1">
              <span className="w-5 text-right text-soft">{hour}</span>
              <NumberField
                label={`Temperature at ${hour} h`}
                width="w-13"
                value={shown(value)}
                says={SAYS[unit]}
                path={`/setting/ambient_by_hour/${hour}`}
                signed
                onChange={(given) => set({ ambient_by_hour: hourly.with(hour, read(given)) })}
              />
            </span>
          ))}
        </fieldset>
      ) : null}
    </>
  );
}
