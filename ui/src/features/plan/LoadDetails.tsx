import type { Load } from "../../api/types";
import { KNOWN_POLARITIES, NATURES, PLUGS } from "../../design/labels";
import { useWorked } from "../../design/use-evaluation";
import { FigureButton } from "../../editor/FigureButton";
import { NumberField } from "../../editor/NumberField";
import { Choose } from "../../ui/Choose";
import { Row } from "../../ui/Row";
import { WireLink } from "../cables/WireLink";
import { usePlaces } from "../construction/use-build";
import { TimesRow, WindowRow } from "./LoadTimes";
import type { LoadFieldProps } from "./load-field-props";

/** The fields of a load that its row has no room for. */
export default function LoadDetails({ load, path, set }: LoadFieldProps) {
  const places = usePlaces([load.id]);
  const rails = [
    ["", "not connected yet"] as const,
    ...places.map((place) => [place.rail, `${place.name}: ${place.suits}`] as const),
  ];
  return (
    <div className="grid grid-cols-1 gap-x-8 md:grid-cols-2">
      <div>
        <Row name="Label gives">
          <DemandKind load={load} path={path} set={set} />
          <FigureButton of={`load.${load.id}.watts`} />
        </Row>
        <Row name="Power factor" help="1 for heaters; 0.5 to 0.7 for cheap adapters">
          <NumberField
            label={`${load.name}: power factor`}
            value={load.power_factor}
            path={path("power_factor")}
            onChange={(power_factor) => set("power factor", { power_factor })}
          />
        </Row>
        <Row name="Standby">
          <NumberField
            label={`${load.name}: standby`}
            unit="W"
            value={load.standby_w}
            path={path("standby_w")}
            onChange={(standby_w) => set("standby", { standby_w })}
          />
          <NumberField
            label={`${load.name}: plugged in`}
            as="hours"
            value={load.plugged_in_h}
            path={path("plugged_in_h")}
            onChange={(plugged_in_h) => set("plugged in", { plugged_in_h })}
          />
          <span className="text-sm text-soft">plugged in a day</span>
        </Row>
        <TimesRow load={load} path={path} set={set} />
        {load.supply.kind === "dc" ? (
          <Row name="Its plug" help="where it goes into a port">
            <Choose
              label={`${load.name}: plug`}
              value={load.plug ?? ""}
              options={[["", "not known"], ...PLUGS]}
              onChange={(plug) => set("plug", { plug: plug || null })}
            />
            <Choose
              label={`${load.name}: polarity`}
              value={load.polarity}
              options={KNOWN_POLARITIES}
              onChange={(polarity) => set("polarity", { polarity })}
            />
          </Row>
        ) : null}
        <Row name="A day, at the load">
          <FigureButton of={`load.${load.id}.day`} />
        </Row>
      </div>
      <div>
        <Row name="Kind">
          <Choose
            label={`${load.name}: kind`}
            value={load.nature}
            options={NATURES}
            onChange={(nature) => set("kind", { nature })}
          />
        </Row>
        <Row name="Depends on it" help="whose health or life">
          <Choose
            label={`${load.name}: who depends on it`}
            value={load.depends ?? ""}
            options={[
              ["", "judged by its name"],
              ["nobody", "nobody"],
              ["a person", "a person"],
              ["an animal", "an animal"],
            ]}
            onChange={(depends) => set("who depends on it", { depends: depends || null })}
          />
        </Row>
        <Row name="Start">
          <StartMethod load={load} path={path} set={set} />
        </Row>
        <Row name="Fed">
          <Choose
            label={`${load.name}: rail`}
            value={load.rail ?? ""}
            options={rails}
            onChange={(rail) => set("rail", { rail: rail || null })}
          />
        </Row>
        <Row name="Draws" help="how its current answers to the volts">
          <Choose
            label={`${load.name}: draws`}
            value={load.draw}
            options={[
              ["constant power", "the same watts (electronics)"],
              ["constant current", "the same amps"],
              ["resistive", "as a resistor (heater, lamp)"],
            ]}
            onChange={(draw) => set("draw", { draw })}
          />
        </Row>
        <Row name="Cable to it" help="both conductors; empty: by the rule">
          <NumberField
            label={`${load.name}: cable`}
            unit="mΩ"
            placeholder="rule"
            value={load.cable_mohm ?? null}
            path={path("cable_mohm")}
            onChange={(cable_mohm) => set("cable", { cable_mohm })}
            onClear={() => set("cable", { cable_mohm: null })}
          />
          <WireLink subject={load.id} />
        </Row>
        {load.supply.kind === "dc" ? <WindowRow load={load} path={path} set={set} /> : null}
        <Row name="Kept apart" help="never at the same time as others kept apart">
          <input
            type="checkbox"
            className="size-4 accent-river"
            aria-label={`${load.name} is kept apart`}
            checked={load.kept_apart}
            onChange={(event) => set("kept apart", { kept_apart: event.target.checked })}
          />
        </Row>
        <Row name="A moment without power">
          <Choose
            label={`${load.name}: a moment without power`}
            value={load.bears_break}
            options={[
              ["unknown", "not known"],
              ["yes", "it goes on"],
              ["no", "it stops or restarts"],
            ]}
            onChange={(bears_break) => set("a moment without power", { bears_break })}
          />
        </Row>
      </div>
    </div>
  );
}

function DemandKind({ load, set }: LoadFieldProps) {
  const { evaluation } = useWorked();
  const figure = (name: string) => evaluation.figures[`load.${load.id}.${name}`]?.value ?? 1;
  const kinds: Record<Load["demand"]["kind"], Load["demand"]> = {
    watts: { kind: "watts", watts: tidy(figure("watts")) },
    amps: { kind: "amps", amps: tidy(figure("amps")) },
    energy: { kind: "energy", wh: tidy(figure("one_day")) },
  };
  return (
    <Choose
      label={`${load.name}: label gives`}
      value={load.demand.kind}
      options={[
        ["watts", "watts"],
        ["amps", "volts and amps"],
        ["energy", "energy a day"],
      ]}
      onChange={(kind) => set("label gives", { demand: kinds[kind] })}
    />
  );
}

const tidy = (value: number) => Number(value.toPrecision(4));

function StartMethod({ load, path, set }: LoadFieldProps) {
  const { evaluation } = useWorked();
  const { start } = load;
  const startW = evaluation.figures[`load.${load.id}.start`]?.value ?? 1;
  const choose = (method: "none" | "factor" | "measured") =>
    set("start", {
      start:
        method === "none"
          ? { method }
          : method === "factor"
            ? { method, factor: null }
            : { method, watts: tidy(startW) },
    });
  return (
    <>
      <Choose
        label={`${load.name}: start`}
        value={start.method}
        options={[
          ["none", "as it runs"],
          ["factor", "times its watts"],
          ["measured", "measured"],
        ]}
        onChange={choose}
      />
      {start.method === "factor" ? (
        <NumberField
          label={`${load.name}: start factor`}
          unit="×"
          width="w-14"
          placeholder="rule"
          value={start.factor ?? null}
          path={path("start/factor")}
          onChange={(factor) => set("start", { start: { method: "factor", factor } })}
          onClear={() => set("start", { start: { method: "factor", factor: null } })}
        />
      ) : null}
      {start.method === "measured" ? (
        <NumberField
          label={`${load.name}: start watts`}
          unit="W"
          value={start.watts}
          path={path("start/watts")}
          onChange={(watts) => set("start", { start: { method: "measured", watts } })}
        />
      ) : null}
      <FigureButton of={`load.${load.id}.start`} />
    </>
  );
}
