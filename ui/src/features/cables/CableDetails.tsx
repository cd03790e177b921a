import type { BankLeads, Cable, CableRow, Design, Fuse } from "../../api/types";
import { fuseKindsFor, INSTALLED, INSULATIONS, SCHOOLS, TAKE_OFFS } from "../../design/cable-text";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { FigureButton } from "../../editor/FigureButton";
import { LengthField } from "../../editor/LengthField";
import { NumberField } from "../../editor/NumberField";
import { quantity } from "../../lib/format";
import { Choose } from "../../ui/Choose";
import { Group, Row } from "../../ui/Row";
import { DisconnectRow } from "./DisconnectRow";
import { EndFuse } from "./EndFuse";
import type { FuseKind, PartProps } from "./part-props";
import { joinedAt, leadsOf, withCable, withFuse, withJoined } from "./wiring";

/** Everything else of a run: how it lies, its fuse, bars, and the figures with their workings. */
export function CableDetails({ row }: { row: CableRow }) {
  const { document: design, change } = useDesign();
  if (!design) return null;
  const set = (what: string, make: (d: Design) => Design) =>
    change(`${row.name}: ${what}`, make, `cable.${row.subject}.${what}`);
  return (
    <div className="framed flex flex-wrap gap-x-10" data-details={row.subject}>
      <Lies row={row} set={set} />
      <Protects row={row} set={set} />
      {row.ends_at_battery ? <EndFuse row={row} set={set} /> : null}
      <Figures row={row} />
    </div>
  );
}

type Insulation = NonNullable<Cable["insulation_c"]>;

function Lies({ row, set }: PartProps) {
  const design = useDesign((state) => state.document);
  const joined = design ? joinedAt(design, row) : null;
  const cable = joined?.cable;
  const leads = design && row.kind === "post" ? leadsOf(design, row.subject) : null;
  const at = `${row.path}/cable`;
  const name = row.name;
  const lies = (what: string, part: Partial<Cable>) => set(what, (d) => withCable(d, row, part));
  return (
    <Group title="The cable">
      <Row name="Parallel cables" help="each with a fuse of its own">
        <NumberField
          label={`${name}: parallel cables`}
          as="whole"
          width="w-14"
          value={cable?.leads ?? 1}
          path={`${at}/leads`}
          onChange={(count) => lies("leads", { leads: count })}
        />
      </Row>
      <Row name="Lies">
        <Choose
          label={`${name}: installed`}
          value={cable?.installed ?? "in conduit or enclosed"}
          options={INSTALLED}
          onChange={(installed) => lies("installed", { installed })}
        />
        {cable?.installed === "in free air" ? null : (
          <NumberField
            label={`${name}: conductors together`}
            unit="together"
            as="whole"
            width="w-12"
            value={cable?.together ?? 2}
            path={`${at}/together`}
            onChange={(together) => lies("together", { together })}
          />
        )}
      </Row>
      <Row name="Insulation, ambient" help="rated for; around the cable">
        <Choose
          label={`${name}: insulation`}
          value={String(cable?.insulation_c ?? "") as (typeof INSULATIONS)[number][0]}
          options={INSULATIONS}
          onChange={(marked) =>
            lies("insulation", {
              insulation_c: marked ? (Number(marked) as Insulation) : null,
            })
          }
        />
        <NumberField
          label={`${name}: ambient`}
          unit="°C"
          width="w-14"
          placeholder="≥ 30"
          value={cable?.ambient_c ?? null}
          path={`${at}/ambient_c`}
          signed
          onChange={(ambient_c) => lies("ambient", { ambient_c })}
          onClear={() => lies("ambient", { ambient_c: null })}
        />
      </Row>
      <Row name="Ampacity by">
        <Choose
          label={`${name}: ampacity by`}
          value={cable?.school ?? ""}
          options={[["", `as the design: ${row.school}`], ...SCHOOLS] as const}
          onChange={(school) => lies("ampacity table", { school: school || null })}
        />
      </Row>
      <Row name="May lose, measured" help="share of the volts; both conductors">
        <NumberField
          label={`${name}: may lose`}
          unit="%"
          as="share"
          width="w-14"
          placeholder={String(row.may_lose * 100)}
          value={cable?.may_lose ?? null}
          path={`${at}/may_lose`}
          onChange={(may_lose) => lies("may lose", { may_lose })}
          onClear={() => lies("may lose", { may_lose: null })}
        />
        <NumberField
          label={`${name}: milliohms`}
          unit="mΩ"
          width="w-16"
          placeholder="by size"
          value={joined?.cable_mohm ?? null}
          path={`${row.path}/cable_mohm`}
          onChange={(cable_mohm) => set("milliohms", (d) => withJoined(d, row, { cable_mohm }))}
          onClear={() => set("milliohms", (d) => withJoined(d, row, { cable_mohm: null }))}
        />
      </Row>
      {row.kind === "post" && row.strings > 1 ? (
        <Row name="Strings" help="longest cable, if not all alike; where the cables connect">
          <LengthField
            label={`${name}: longest cable`}
            placeholder="alike"
            value={leads?.longest_m ?? null}
            path={`${row.path}/longest_m`}
            onChange={(longest_m) =>
              set("longest cable", (d) => withJoined(withCable(d, row, {}), row, { longest_m }))
            }
            onClear={() => set("longest cable", (d) => withJoined(d, row, { longest_m: null }))}
          />
          <Choose
            label={`${name}: connected at`}
            value={leads?.take_off ?? "from both ends"}
            options={TAKE_OFFS}
            onChange={(take_off: NonNullable<BankLeads["take_off"]>) =>
              set("take-off", (d) => withJoined(d, row, { take_off }))
            }
          />
        </Row>
      ) : null}
    </Group>
  );
}

function Protects({ row, set }: PartProps) {
  const { reference } = useWorked();
  const design = useDesign((state) => state.document);
  const joined = design ? joinedAt(design, row) : null;
  const fuse = joined?.fuse;
  const at = `${row.path}/fuse`;
  const name = row.name;
  const shown = row.fuse ?? row.proposed_fuse;
  const fused = (what: string, part: Partial<Fuse>) => set(what, (d) => withFuse(d, row, part));
  return (
    <Group title={row.kind === "post" ? "Main fuse of each battery in parallel" : "Its fuse"}>
      <Row name="Kind">
        <Choose
          label={`${name}: fuse kind`}
          value={(fuse?.kind ?? "") as string}
          options={fuseKindsFor(reference)}
          onChange={(kind) => fused("fuse kind", { kind: (kind || null) as FuseKind })}
        />
      </Row>
      <Row name="Breaks" help="DC volts; amps in a short circuit">
        <NumberField
          label={`${name}: fuse volts`}
          unit="V"
          width="w-14"
          placeholder={shown?.volts ? String(shown.volts) : "–"}
          value={fuse?.volts ?? null}
          path={`${at}/volts`}
          onChange={(volts) => fused("fuse volts", { volts })}
          onClear={() => fused("fuse volts", { volts: null })}
        />
        <NumberField
          label={`${name}: fuse interrupts`}
          unit="A"
          width="w-20"
          placeholder={shown?.breaks_a ? String(shown.breaks_a) : "–"}
          value={fuse?.breaks_a ?? null}
          path={`${at}/breaks_a`}
          onChange={(breaks_a) => fused("fuse interrupts", { breaks_a })}
          onClear={() => fused("fuse interrupts", { breaks_a: null })}
        />
      </Row>
      {row.kind === "post" ? (
        <Row name="From the post" help="18 cm at most">
          <LengthField
            label={`${name}: fuse from the post`}
            value={fuse?.from_post_m ?? null}
            placeholder="unsaid"
            path={`${at}/from_post_m`}
            onChange={(from_post_m) => fused("fuse from the post", { from_post_m })}
            onClear={() => fused("fuse from the post", { from_post_m: null })}
          />
        </Row>
      ) : null}
      {row.kind === "post" ? <DisconnectRow row={row} set={set} /> : null}
      <Row name="Bus bar" help={`all its current; ${quantityOf(row.proposed_bus_bar_a)} or more`}>
        <NumberField
          label={`${name}: bus bar`}
          unit="A"
          width="w-16"
          placeholder="none"
          value={joined?.bus_bar_a ?? null}
          path={`${row.path}/bus_bar_a`}
          onChange={(bus_bar_a) => set("bus bar", (d) => withJoined(d, row, { bus_bar_a }))}
          onClear={() => set("bus bar", (d) => withJoined(d, row, { bus_bar_a: null }))}
        />
      </Row>
      <Row name="Shunt" help={`of a battery meter; ${quantityOf(row.proposed_shunt_a)} or more`}>
        <NumberField
          label={`${name}: shunt`}
          unit="A"
          width="w-16"
          placeholder="none"
          value={joined?.shunt_a ?? null}
          path={`${row.path}/shunt_a`}
          onChange={(shunt_a) => set("shunt", (d) => withJoined(d, row, { shunt_a }))}
          onClear={() => set("shunt", (d) => withJoined(d, row, { shunt_a: null }))}
        />
      </Row>
    </Group>
  );
}

const quantityOf = (amps: number | null) => (amps === null ? "two of them" : quantity(amps, "A"));

const SHOWN = [
  ["lead_a", "In one cable"],
  ["ampacity_a", "One cable is rated for"],
  ["least_fuse_a", "Smallest fuse"],
  ["short_a", "Short circuit"],
  ["ohm", "Resistance"],
  ["drop_share", "Drop in this run"],
  ["start_drop_v", "Drop at the highest start"],
  ["uneven", "Shortest cable carries"],
] as const;

function Figures({ row }: { row: CableRow }) {
  const { evaluation } = useWorked();
  const key = `cable.${row.subject}`;
  return (
    <Group title="Figures">
      <dl className="grid grid-cols-[auto_auto] gap-x-4 gap-y-0.5 text-sm">
        {SHOWN.filter(([end]) => evaluation.figures[`${key}.${end}`]).map(([end, words]) => (
          <div key={end} className="contents">
            <dt className="text-soft">{words}</dt>
            <dd className="text-right">
              <FigureButton of={`${key}.${end}`} />
            </dd>
          </div>
        ))}
      </dl>
    </Group>
  );
}
