import type { Outlet } from "../../api/types";
import { useReference } from "../../api/use-reference";
import { KNOWN_POLARITIES, PLUGS } from "../../design/labels";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { VoltsListField } from "../../editor/VoltsListField";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import type { FieldsProps, StationFigures } from "./fields";
import { HertzChoice } from "./HertzChoice";

/** A port with other settings of its switch, set to one of them. */
const switched = (port: Extract<Outlet, { kind: "dc" }>, selects_v: number[]) => {
  const stays = !selects_v.length || selects_v.includes(port.volts ?? 0);
  return { selects_v, volts: stays ? port.volts : (selects_v[0] ?? null) };
};

interface OutletsProps extends FieldsProps<StationFigures> {
  /** Ids that are taken: an outlet makes a rail of the design. */
  taken: ReadonlySet<string>;
  /** Outlets with something connected to them stay. */
  used: ReadonlySet<string>;
  /** Volts of the mains where the design is used: what new AC sockets give. */
  mainsV?: number;
}

/** The outlets of a station, one a row. */
export function OutletFields({ value, label, at, set, taken, used, mainsV }: OutletsProps) {
  const { outlets } = value;
  const reference = useReference();
  const put = (index: number, change: Partial<Outlet>) =>
    set("outlet", {
      outlets: outlets.with(index, { ...outlets[index], ...change } as Outlet),
    });
  const { ac: sockets } = reference?.blank_outlets ?? {};
  const add = (usual: Outlet | undefined) => {
    let n = outlets.length + 1;
    while (taken.has(`outlet-${n}`) || outlets.some((one) => one.id === `outlet-${n}`)) n += 1;
    if (!usual) return;
    const blank = usual.kind === "ac" && mainsV ? { ...usual, volts: mainsV } : usual;
    set("add an outlet", {
      outlets: [...outlets, { ...blank, id: `outlet-${n}` } as Outlet],
    });
  };
  return (
    <>
      {outlets.map((outlet, index) => {
        const path = `${at}/outlets/${index}`;
        const name = `${label}: ${outlet.name}`;
        return (
          <div
            key={outlet.id}
            className="flex flex-wrap items-center gap-2 border-line border-b py-1.5 text-sm"
            data-outlet={outlet.id}
          >
            <TextField
              label={`${name}: name`}
              className="w-32"
              value={outlet.name}
              path={`${path}/name`}
              onChange={(given) => put(index, { name: given })}
            />
            {outlet.kind === "ac" ? (
              <>
                <NumberField
                  label={`${name}: volts`}
                  unit="V"
                  width="w-14"
                  value={outlet.volts}
                  path={`${path}/volts`}
                  onChange={(volts) => put(index, { volts })}
                />
                <NumberField
                  label={`${name}: continuous watts`}
                  unit="W"
                  width="w-18"
                  value={outlet.continuous_w}
                  path={`${path}/continuous_w`}
                  onChange={(continuous_w) => put(index, { continuous_w })}
                />
                <NumberField
                  label={`${name}: surge watts`}
                  unit="W surge"
                  width="w-18"
                  value={outlet.surge_w}
                  path={`${path}/surge_w`}
                  onChange={(surge_w) => put(index, { surge_w })}
                />
                <NumberField
                  label={`${name}: idle watts`}
                  unit="W idle"
                  width="w-12"
                  value={outlet.idle_w}
                  path={`${path}/idle_w`}
                  onChange={(idle_w) => put(index, { idle_w })}
                />
                <NumberField
                  label={`${name}: efficiency at full load`}
                  as="share"
                  unit="%"
                  width="w-12"
                  value={outlet.full_load.efficiency}
                  path={`${path}/full_load/efficiency`}
                  onChange={(efficiency) =>
                    put(index, { full_load: { ...outlet.full_load, efficiency } })
                  }
                />
                <HertzChoice
                  label={`${name}: frequency`}
                  value={outlet.hz}
                  onChange={(hz) => put(index, { hz })}
                />
                <Choose
                  label={`${name}: waveform`}
                  value={outlet.waveform}
                  options={[
                    ["pure sine", "pure sine"],
                    ["modified sine", "modified sine"],
                  ]}
                  onChange={(waveform) => put(index, { waveform })}
                />
                <Choose
                  label={`${name}: switched`}
                  value={outlet.switched}
                  options={[
                    ["on with its loads", "on with its loads"],
                    ["always on", "always on"],
                  ]}
                  onChange={(switched) => put(index, { switched })}
                />
              </>
            ) : (
              <>
                <Choose
                  label={`${name}: gives`}
                  value={outlet.gives}
                  options={[
                    ["regulated", "regulated"],
                    ["sagging", "sags with the charge"],
                  ]}
                  onChange={(gives) =>
                    put(index, {
                      gives,
                      volts: gives === "regulated" ? 12.6 : null,
                      selects_v: [],
                    })
                  }
                />
                {outlet.selects_v.length ? (
                  <Choose
                    label={`${name}: volts`}
                    value={String(outlet.volts)}
                    options={outlet.selects_v.map((volts) => [String(volts), `${volts} V`])}
                    onChange={(volts) => put(index, { volts: Number(volts) })}
                  />
                ) : outlet.gives === "regulated" ? (
                  <NumberField
                    label={`${name}: volts`}
                    unit="V"
                    width="w-14"
                    value={outlet.volts ?? null}
                    path={`${path}/volts`}
                    onChange={(volts) => put(index, { volts })}
                  />
                ) : (
                  <NumberField
                    label={`${name}: cut-off`}
                    unit="V off"
                    width="w-14"
                    placeholder="none"
                    value={outlet.cut_v ?? null}
                    path={`${path}/cut_v`}
                    onChange={(cut_v) => put(index, { cut_v })}
                    onClear={() => put(index, { cut_v: null })}
                  />
                )}
                <NumberField
                  label={`${name}: amps`}
                  unit="A"
                  width="w-12"
                  value={outlet.amps}
                  path={`${path}/amps`}
                  onChange={(amps) => put(index, { amps })}
                />
                <NumberField
                  label={`${name}: efficiency`}
                  as="share"
                  unit="%"
                  width="w-12"
                  value={outlet.efficiency}
                  path={`${path}/efficiency`}
                  onChange={(efficiency) => put(index, { efficiency })}
                />
                <Choose
                  label={`${name}: plug`}
                  value={outlet.plug}
                  options={PLUGS}
                  onChange={(plug) => put(index, { plug })}
                />
                <Choose
                  label={`${name}: polarity`}
                  value={outlet.polarity}
                  options={KNOWN_POLARITIES}
                  onChange={(polarity) => put(index, { polarity })}
                />
                {outlet.gives === "regulated" ? (
                  <VoltsListField
                    label={`${name}: volts its switch offers`}
                    value={outlet.selects_v}
                    path={`${path}/selects_v`}
                    onChange={(selects_v) => put(index, switched(outlet, selects_v))}
                  />
                ) : null}
              </>
            )}
            <Button
              look="quiet"
              disabled={used.has(outlet.id)}
              title={used.has(outlet.id) ? "Something is connected to it" : `Remove ${outlet.name}`}
              onClick={() =>
                set("remove an outlet", { outlets: outlets.filter((one) => one !== outlet) })
              }
            >
              ×<span className="sr-only"> Remove {outlet.name}</span>
            </Button>
          </div>
        );
      })}
      <p className="mt-1 flex flex-wrap gap-x-1">
        <Button look="quiet" onClick={() => add(sockets)}>
          + Mains sockets
        </Button>
        {Object.entries(reference?.usual_ports ?? {}).map(([word, port]) => (
          <Button key={word} look="quiet" onClick={() => add(port)}>
            + {word}
          </Button>
        ))}
      </p>
    </>
  );
}
