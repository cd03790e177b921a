import type { Generator } from "../../api/types";
import { withStore } from "../../design/edits";
import { useDesign } from "../../design/store";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { TimesField } from "../../editor/TimesField";
import { Choose } from "../../ui/Choose";
import { Group, Row } from "../../ui/Row";

/** A generator: its watts, when it runs, its wave and its fuel. */
export function GeneratorPanel({ generator }: { generator: Generator }) {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  if (!design) return null;
  const at = `/stores/${design.stores.indexOf(generator)}`;
  const set = (field: string, part: Partial<Generator>) =>
    change(
      `${generator.name}: ${field}`,
      (d) => withStore<Generator>(d, generator.id, part),
      `${generator.id}.${field}`,
    );
  return (
    <div className="max-w-160">
      <Group title="Generator">
        <Row name="Name">
          <TextField
            label="Generator name"
            className="sm:w-72"
            value={generator.name}
            path={`${at}/name`}
            onChange={(name) => set("name", { name })}
          />
        </Row>
        <Row name="Gives" help="continuously, not its peak">
          <NumberField
            label="Generator: watts"
            unit="W"
            width="w-16"
            value={generator.watts}
            path={`${at}/watts`}
            onChange={(watts) => set("watts", { watts })}
          />
        </Row>
        <Row name="Runs" help="times of day">
          <TimesField
            label="Generator: runs"
            value={generator.runs}
            onChange={(runs) => set("times", { runs })}
          />
        </Row>
        <Row name="Wave">
          <Choose
            label="Generator: wave"
            value={generator.waveform}
            options={[
              ["pure sine", "pure sine (inverter generator)"],
              ["other", "other, or not known"],
            ]}
            onChange={(waveform) => set("wave", { waveform })}
          />
        </Row>
        <Row name="Fuel" help="for each kWh, where it is known">
          <NumberField
            label="Generator: fuel"
            unit="l a kWh"
            width="w-16"
            placeholder="unsaid"
            value={generator.litres_per_kwh ?? null}
            path={`${at}/litres_per_kwh`}
            onChange={(litres_per_kwh) => set("fuel", { litres_per_kwh })}
            onClear={() => set("fuel", { litres_per_kwh: null })}
          />
        </Row>
      </Group>
      <p className="text-soft text-sm">
        It makes carbon monoxide: run it outside, away from doors and windows. Neutral and earth are
        bonded in one place only, by an electrician.
      </p>
    </div>
  );
}
