import type { Station } from "../../api/types";
import { namesOf, withStore } from "../../design/edits";
import { PROVENANCES } from "../../design/labels";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { FigureButton } from "../../editor/FigureButton";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Group, Row } from "../../ui/Row";
import { InputFields } from "../fields/InputFields";
import { OutletFields } from "../fields/OutletFields";
import { StationFields } from "../fields/StationFields";
import { ShelfRow } from "../shelf/ShelfRow";
import { Ambient } from "./BankPanel";

/** A station: its battery, what comes out of it, where it is charged. */
export function StationPanel({ station }: { station: Station }) {
  const { reference } = useWorked();
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const { ask, show } = usePlan();
  if (!design) return null;
  const at = `/stores/${design.stores.indexOf(station)}`;
  const set = (field: string, part: Partial<Station>) =>
    change(
      `${station.name}: ${field}`,
      (d) => withStore<Station>(d, station.id, part),
      `${station.id}.${field}`,
    );
  const key = (figure: string) => `store.${station.id}.${figure}`;
  const rails = new Set(
    [...design.loads, ...design.stages, ...design.links].map((one) => one.rail ?? ""),
  );
  const inputs = new Set(
    design.links.filter((one) => one.to === station.id).map((one) => one.input ?? ""),
  );
  const fields = { value: station, label: "Station", at, set };
  return (
    <div>
      <div className="grid grid-cols-1 gap-x-10 lg:grid-cols-2">
        <div>
          <Group title="Station">
            <Row name="Name">
              <TextField
                label="Station name"
                className="sm:w-72"
                value={station.name}
                path={`${at}/name`}
                onChange={(name) => set("name", { name })}
              />
            </Row>
            <StationFields
              {...fields}
              chemistry={
                <Choose
                  label="Station: chemistry"
                  value={station.chemistry}
                  options={reference.chemistries.map((c) => [c.key, c.name] as const)}
                  onChange={(chemistry) => set("chemistry", { chemistry })}
                />
              }
            />
            <Row name="Source">
              <Choose
                label="Station source"
                value={station.provenance}
                options={PROVENANCES}
                onChange={(provenance) => set("source", { provenance })}
              />
            </Row>
            <ShelfRow subject={station.id} copy={station.shelf ?? null} />
          </Group>
        </div>
        <div>
          <Group title="Here">
            <Row name="Maker's modules" help="expansion that belongs to it">
              <NumberField
                label="Maker's modules"
                unit="Wh"
                value={station.module_wh}
                path={`${at}/module_wh`}
                onChange={(module_wh) => set("modules", { module_wh })}
              />
            </Row>
            <Row name="Reserve" help="your own, on top of what it keeps for itself">
              <NumberField
                label="Station: reserve"
                as="share"
                unit="%"
                width="w-14"
                value={station.reserve}
                path={`${at}/reserve`}
                onChange={(reserve) => set("reserve", { reserve })}
              />
            </Row>
            <Row name="Charge at the start" help="100 % is full">
              <NumberField
                label="Station: charge at the start"
                as="share"
                unit="%"
                width="w-14"
                value={station.starts_at}
                path={`${at}/starts_at`}
                onChange={(starts_at) => set("charge at the start", { starts_at })}
              />
            </Row>
            <Ambient />
          </Group>
          <Group title="Resulting figures">
            <Row name="Energy of its cells">
              <FigureButton of={key("wh")} className="font-semibold" />
              <span className="text-soft text-sm">
                inner <FigureButton of={key("volts")} />
              </span>
            </Row>
            <Row name="Usable at this temperature and current">
              <FigureButton of={key("usable")} className="font-semibold" />
              <span className="text-soft text-sm">
                cold <FigureButton of={key("temperature_factor")} digits={2} />
              </span>
            </Row>
            <Row name="Own draw">
              <FigureButton of={key("own_wh")} />
              <span className="text-soft text-sm">a day</span>
            </Row>
          </Group>
          <p className="mt-2 flex flex-wrap gap-2">
            <Button onClick={() => ask({ what: "lead", to: station.id })}>Connect power…</Button>
            <Button look="main" onClick={() => show("routes")}>
              Ways to grow it
            </Button>
          </p>
        </div>
      </div>
      <Group title="Outlets">
        <OutletFields
          {...fields}
          taken={new Set(namesOf(design).keys())}
          used={rails}
          mainsV={design.setting.ac_volts}
        />
      </Group>
      <Group title="Charge inputs">
        <InputFields {...fields} used={inputs} />
      </Group>
    </div>
  );
}
