import type { Mains } from "../../api/types";
import { withStore } from "../../design/edits";
import { useDesign } from "../../design/store";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { TimesField } from "../../editor/TimesField";
import { Group, Row } from "../../ui/Row";

/** A mains socket: its amps, and when there is mains. */
export function MainsPanel({ mains }: { mains: Mains }) {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  if (!design) return null;
  const at = `/stores/${design.stores.indexOf(mains)}`;
  const set = (field: string, part: Partial<Mains>) =>
    change(
      `${mains.name}: ${field}`,
      (d) => withStore<Mains>(d, mains.id, part),
      `${mains.id}.${field}`,
    );
  return (
    <div className="max-w-160">
      <Group title="Mains">
        <Row name="Name">
          <TextField
            label="Mains name"
            className="sm:w-72"
            value={mains.name}
            path={`${at}/name`}
            onChange={(name) => set("name", { name })}
          />
        </Row>
        <Row name="Gives" help="what its socket or breaker carries continuously">
          <NumberField
            label="Mains: most amps"
            unit={`A at ${design.setting.ac_volts} V`}
            width="w-16"
            value={mains.socket_a}
            path={`${at}/socket_a`}
            onChange={(socket_a) => set("amps", { socket_a })}
          />
        </Row>
        <Row name="There is mains" help="times of day; empty: always. Days: see Refill">
          <TimesField
            label="Mains: times"
            value={mains.times ?? null}
            onChange={(times) => set("times", { times })}
            onClear={() => set("times", { times: null })}
          />
        </Row>
      </Group>
      <p className="text-soft text-sm">
        Anything fixed to the mains is a licensed electrician's work. Never feed a house through a
        plug.
      </p>
    </div>
  );
}
