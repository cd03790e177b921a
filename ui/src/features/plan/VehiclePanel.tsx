import type { Vehicle } from "../../api/types";
import { withStore } from "../../design/edits";
import { PROVENANCES } from "../../design/labels";
import { useDesign } from "../../design/store";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { TimesField } from "../../editor/TimesField";
import { Choose } from "../../ui/Choose";
import { Group, Row } from "../../ui/Row";
import { Tick } from "../../ui/Tick";

// Thin cables and plug of a socket; a short thick cable to the post. Common practice.
const SOCKET_MOHM = 20;
const POST_MOHM = 5;

/** A vehicle: what its socket or converter gives, and when its engine runs. */
export function VehiclePanel({ vehicle }: { vehicle: Vehicle }) {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  if (!design) return null;
  const at = `/stores/${design.stores.indexOf(vehicle)}`;
  const set = (field: string, part: Partial<Vehicle>) =>
    change(
      `${vehicle.name}: ${field}`,
      (d) => withStore<Vehicle>(d, vehicle.id, part),
      `${vehicle.id}.${field}`,
    );
  return (
    <div className="max-w-160">
      <Group title="Vehicle">
        <Row name="Name">
          <TextField
            label="Vehicle name"
            className="sm:w-72"
            value={vehicle.name}
            path={`${at}/name`}
            onChange={(name) => set("name", { name })}
          />
        </Row>
        <Row name="Gives" help="with the engine running; limit of its socket, fuse or converter">
          <NumberField
            label="Vehicle: running volts"
            unit="V, up to"
            width="w-16"
            value={vehicle.running_v}
            path={`${at}/running_v`}
            onChange={(running_v) => set("volts", { running_v })}
          />
          <NumberField
            label="Vehicle: most amps"
            unit="A"
            width="w-16"
            value={vehicle.limit_a}
            path={`${at}/limit_a`}
            onChange={(limit_a) => set("amps", { limit_a })}
          />
        </Row>
        <Row name="Taken from" help="a socket has thin cables and a fuse of its own">
          <Choose
            label="Vehicle: taken from"
            value={vehicle.taken_from}
            options={[
              ["socket", "a socket"],
              ["battery post", "the battery post"],
            ]}
            onChange={(taken_from) =>
              set("taken from", {
                taken_from,
                cable_mohm: taken_from === "socket" ? SOCKET_MOHM : POST_MOHM,
              })
            }
          />
          <NumberField
            label="Vehicle: cable"
            unit="mΩ to there"
            width="w-16"
            value={vehicle.cable_mohm}
            path={`${at}/cable_mohm`}
            onChange={(cable_mohm) => set("cable", { cable_mohm })}
          />
        </Row>
        <Row name="Alternator" help="a smart one varies from 12.2 to 15.5 V">
          <Choose
            label="Vehicle: alternator"
            value={vehicle.alternator}
            options={[
              ["unknown", "not known"],
              ["smart", "smart: variable voltage"],
              ["fixed", "constant voltage"],
            ]}
            onChange={(alternator) => set("alternator", { alternator })}
          />
          <NumberField
            label="Vehicle: alternator amps"
            unit="A rated"
            width="w-16"
            placeholder="unsaid"
            value={vehicle.alternator_a ?? null}
            path={`${at}/alternator_a`}
            onChange={(alternator_a) => set("alternator amps", { alternator_a })}
            onClear={() => set("alternator amps", { alternator_a: null })}
          />
        </Row>
        <Row name="Engine runs" help="times of day">
          <TimesField
            label="Vehicle: engine runs"
            value={vehicle.runs}
            onChange={(runs) => set("engine", { runs })}
          />
          <Tick
            label="Vehicle: engine only idles"
            checked={vehicle.idles}
            onChange={(idles) => set("idling", { idles })}
          />
          only idles
        </Row>
        <Row name="Engine signal" help="how its loads detect that the engine runs">
          <Choose
            label="Vehicle: engine signal"
            value={vehicle.signal}
            options={[
              ["ignition wire", "an ignition (D+) wire"],
              ["voltage", "voltage"],
              ["none", "nothing"],
            ]}
            onChange={(signal) => set("engine signal", { signal })}
          />
        </Row>
        <Row name="Source">
          <Choose
            label="Vehicle source"
            value={vehicle.provenance}
            options={PROVENANCES}
            onChange={(provenance) => set("source", { provenance })}
          />
        </Row>
      </Group>
    </div>
  );
}
