import { NumberField } from "../../editor/NumberField";
import { useSettings } from "../../lib/settings";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";

const MAINS = ["230 50", "120 60", "220 60", "240 50", "100 50", "100 60", "110 60", "127 60"];

/** Where somebody builds, and in which units: kept for the next design. */
export function RegionRows() {
  const { region, temperature, lengths, currency, set } = useSettings();
  const put = (part: Partial<typeof region>) => set({ region: { ...region, ...part } });
  const now = `${region.ac_volts} ${region.ac_hz}`;
  const usual = MAINS.includes(now);
  return (
    <>
      <Row name="Mains there">
        <Choose<string>
          label="Mains there"
          value={usual ? now : "other"}
          options={[
            ...MAINS.map((one): [string, string] => [one, `${one.replace(" ", " V ")} Hz`]),
            ["other", "other"],
          ]}
          onChange={(one) => {
            const [volts, hz] = one === "other" ? ["115", "60"] : one.split(" ");
            put({ ac_volts: Number(volts), ac_hz: hz === "60" ? 60 : 50 });
          }}
        />
        {usual ? null : (
          <NumberField
            label="Mains volts there"
            unit="V"
            width="w-14"
            value={region.ac_volts}
            path="/region/ac_volts"
            onChange={(ac_volts) => put({ ac_volts })}
          />
        )}
      </Row>
      <Row name="Built into">
        <Choose
          label="Built into"
          value={region.place}
          options={[
            ["vehicle", "a vehicle"],
            ["boat", "a boat"],
            ["building", "a building"],
            ["box", "a box people carry"],
          ]}
          onChange={(place) => put({ place })}
        />
      </Row>
      <Row name="Units">
        <Choose
          label="Cable sizes"
          value={region.sizes}
          options={[
            ["metric", "mm²"],
            ["AWG", "AWG"],
          ]}
          onChange={(sizes) => put({ sizes })}
        />
        <Choose
          label="Temperatures"
          value={temperature}
          options={[
            ["C", "°C"],
            ["F", "°F"],
          ]}
          onChange={(unit) => set({ temperature: unit })}
        />
        <Choose
          label="Lengths"
          value={lengths}
          options={[
            ["m", "m"],
            ["ft", "ft"],
          ]}
          onChange={(unit) => set({ lengths: unit })}
        />
      </Row>
      <Row name="Currency" help="stands before prices; any word, or none">
        <input
          className="field w-20"
          aria-label="Currency"
          maxLength={5}
          value={currency}
          onChange={(event) => set({ currency: event.target.value })}
        />
      </Row>
    </>
  );
}
