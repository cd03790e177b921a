import type { RefObject } from "react";
import { useDesign } from "../design/store";
import { NumberField } from "../editor/NumberField";
import { type Theme, useSettings } from "../lib/settings";
import { AnchoredPopover } from "../ui/AnchoredPopover";
import { Choose } from "../ui/Choose";
import { Row } from "../ui/Row";

interface SettingsPopoverProps {
  button: RefObject<HTMLButtonElement | null>;
  onClose: () => void;
}

/** Where the design is used, and how this browser shows it. */
export default function SettingsPopover({ button, onClose }: SettingsPopoverProps) {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const settings = useSettings();
  if (!design) return null;
  const { setting } = design;
  const set = (part: Partial<typeof setting>) =>
    change("setting", (d) => ({ ...d, setting: { ...d.setting, ...part } }), "setting");
  return (
    <AnchoredPopover
      button={button}
      label="Settings"
      align="end"
      className="w-[min(26rem,94vw)]"
      onClose={onClose}
    >
      <Row name="Built into" help="cable table, cautions, codes">
        <Choose
          label="Built into"
          value={setting.place}
          options={[
            ["vehicle", "a vehicle"],
            ["boat", "a boat"],
            ["building", "a building"],
            ["box", "a box people carry"],
          ]}
          onChange={(place) => set({ place })}
        />
      </Row>
      <Row name="Mains there">
        <NumberField
          label="Mains volts"
          unit="V"
          width="w-14"
          value={setting.ac_volts}
          path="/setting/ac_volts"
          onChange={(ac_volts) => set({ ac_volts })}
        />
        <Choose
          label="Mains frequency"
          value={setting.ac_hz === 50 ? "50" : "60"}
          options={[
            ["50", "50 Hz"],
            ["60", "60 Hz"],
          ]}
          onChange={(hz) => set({ ac_hz: hz === "50" ? 50 : 60 })}
        />
      </Row>
      <Row name="Run begins at" help="time of day">
        <NumberField
          label="Run begins at"
          as="clock"
          width="w-16"
          value={setting.starts_at_h}
          path="/setting/starts_at_h"
          onChange={(starts_at_h) => set({ starts_at_h })}
        />
      </Row>
      <Row name="Simulated time" help="days, for example 30 d">
        <NumberField
          label="Simulated time"
          as="hours"
          width="w-20"
          value={setting.horizon_h}
          path="/setting/horizon_h"
          onChange={(horizon_h) => set({ horizon_h })}
        />
      </Row>
      <Row name="Units">
        <Choose
          label="Temperature unit"
          value={settings.temperature}
          options={[
            ["C", "°C"],
            ["F", "°F"],
          ]}
          onChange={(unit) => settings.set({ temperature: unit })}
        />
        <Choose
          label="Lengths"
          value={settings.lengths}
          options={[
            ["m", "m"],
            ["ft", "ft"],
          ]}
          onChange={(lengths) => settings.set({ lengths })}
        />
      </Row>
      <Row name="Currency" help="stands before prices">
        <input
          className="field w-20"
          aria-label="Currency"
          placeholder="none"
          maxLength={5}
          value={settings.currency}
          onChange={(event) => settings.set({ currency: event.target.value })}
        />
      </Row>
      <Row name="Theme">
        <Choose<Theme>
          label="Theme"
          value={settings.theme}
          options={[
            ["system", "as the system"],
            ["light", "light"],
            ["dark", "dark"],
          ]}
          onChange={(theme) => settings.set({ theme })}
        />
      </Row>
    </AnchoredPopover>
  );
}
