import type { Lead, LinkRow } from "../../api/types";
import {
  acRails,
  dcRails,
  firstStore,
  isStation,
  namesOf,
  withLink,
  withoutLink,
} from "../../design/edits";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { FigureButton } from "../../editor/FigureButton";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { TimesField } from "../../editor/TimesField";
import { quantity } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { WindowStrip } from "../../pictures/WindowStrip";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Group, Row } from "../../ui/Row";
import { WireLink } from "../cables/WireLink";
import { useBuildNow } from "../construction/use-build";
import { ChargerFields } from "../fields/ChargerFields";
import { ShelfRow } from "../shelf/ShelfRow";
import { Pick } from "./Pick";

/** Leads that charge a station or a bank: where from, in which mode, and what binds. */
export default function LeadsPanel() {
  const design = useDesign((state) => state.document);
  const { selected, ask } = usePlan();
  if (!design) return null;
  const link = design.links.find((one) => one.id === selected) ?? design.links[0];
  const to = design.stores.find(isStation) ?? firstStore(design);
  const add = () => ask({ what: "lead", to: to.id });
  if (!link) {
    return (
      <div className="my-4 max-w-140 rounded border border-edge border-dashed p-4">
        <p>
          Nothing is charged yet. A link leads from a rail or a source to what it charges: into a
          bank through a charger, into a station by one of its inputs.
        </p>
        <p className="mt-3">
          <Button look="main" onClick={add}>
            Connect power to a store…
          </Button>
        </p>
      </div>
    );
  }
  return (
    <>
      <Pick name="Links" things={design.links} at={link.id}>
        <Button look="quiet" onClick={add}>
          + Add
        </Button>
      </Pick>
      <LeadEditor key={link.id} link={link} />
    </>
  );
}

function LeadEditor({ link }: { link: Lead }) {
  const { evaluation } = useWorked();
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const buildNow = useBuildNow();
  if (!design) return null;
  const row = evaluation.links.find((one) => one.id === link.id);
  const joint = evaluation.joints.find((one) => one.subject === link.id);
  const at = `/links/${design.links.indexOf(link)}`;
  const set = (field: string, part: Partial<Lead>) =>
    change(`${link.name}: ${field}`, (d) => withLink(d, link.id, part), `${link.id}.${field}`);
  const to = design.stores.find((store) => store.id === link.to);
  const station = to && isStation(to) ? to : null;
  const input = station?.inputs.find((one) => one.id === link.input);
  const sources = (...kinds: string[]) =>
    design.stores
      .filter((store) => kinds.includes(store.kind))
      .map((store): [string, string] => [store.id, store.name]);
  const rails =
    input?.supply === "ac"
      ? [...sources("mains", "generator"), ...acRails(design, link.to)]
      : [
          ...dcRails(design, link.to),
          ...sources("sun", ...(station ? [] : ["mains", "generator"])),
        ];
  const remove = () => {
    change("remove a link", (d) => withoutLink(d, link.id));
    notify(`${link.name} is removed.`, { label: "Undo", act: undo });
  };
  return (
    <div className="grid grid-cols-1 gap-x-10 lg:grid-cols-2">
      <div>
        <Group title="Link">
          <Row name="Name">
            <TextField
              label="Link name"
              className="sm:w-72"
              value={link.name}
              path={`${at}/name`}
              onChange={(name) => set("name", { name })}
            />
          </Row>
          <Row name="Fed from">
            <Choose
              label="Link: fed from"
              value={link.rail}
              options={rails}
              onChange={(rail) => buildNow({ ask: "feed link", link: link.id, rail })}
            />
          </Row>
          <Row name="Into">
            <span>{namesOf(design).get(link.to)}</span>
            {station ? (
              <Choose
                label="Link: input"
                value={link.input ?? ""}
                options={station.inputs.map((one) => [one.id, one.name] as const)}
                onChange={(next) => buildNow({ ask: "feed link", link: link.id, input: next })}
              />
            ) : null}
          </Row>
          {input && input.supply === "dc" ? (
            <Row name="In mode" help="what connector or sense wire bring about">
              <Choose
                label="Link: mode"
                value={link.mode ?? ""}
                options={[
                  ...(link.mode ? [] : [["", "the one of fewest amps"] as const]),
                  ...input.modes.map(
                    (mode) => [mode.name, `${mode.name}, ${quantity(mode.amps, "A")}`] as const,
                  ),
                ]}
                onChange={(mode) => set("mode", { mode })}
              />
            </Row>
          ) : null}
          {input ? (
            <p className="my-1 text-sm">
              Plug: {input.plug}, {input.polarity}. Check it with a meter before it goes in.
            </p>
          ) : null}
          <Row name="Plugged in" help="times of day; empty: always">
            <TimesField
              label="Link: plugged in"
              value={link.times ?? null}
              onChange={(times) => set("times", { times })}
              onClear={() => set("times", { times: null })}
            />
          </Row>
          <Row name="Carried by" help="length, size, fuse, connector">
            <WireLink subject={link.id} />
          </Row>
          <Row name="Fuse, cable" help="of this link; both conductors">
            <NumberField
              label="Link: fuse"
              unit="A"
              width="w-16"
              placeholder="unsaid"
              value={link.fuse?.amps ?? null}
              path={`${at}/fuse/amps`}
              onChange={(amps) => set("fuse", { fuse: { ...link.fuse, amps } })}
              onClear={() => set("fuse", { fuse: null })}
            />
            <NumberField
              label="Link: cable"
              unit="mΩ"
              width="w-16"
              placeholder="rule"
              value={link.cable_mohm ?? null}
              path={`${at}/cable_mohm`}
              onChange={(cable_mohm) => set("cable", { cable_mohm })}
              onClear={() => set("cable", { cable_mohm: null })}
            />
          </Row>
        </Group>
        {station ? null : (
          <ChargerGroup link={link} at={at} set={set} kinds={row?.chargers ?? []} />
        )}
        <p className="mt-1">
          <Button look="danger" onClick={remove}>
            Remove the link
          </Button>
        </p>
      </div>
      <div>
        <Group title="What it brings, source full">
          {joint ? (
            <Row name="Volts" help="arrive, on what is accepted">
              <WindowStrip joint={joint} width={200} />
            </Row>
          ) : null}
          {row ? <Brings link={link} row={row} /> : null}
        </Group>
      </div>
    </div>
  );
}

interface ChargerGroupProps {
  link: Lead;
  at: string;
  set: (field: string, part: Partial<Lead>) => void;
  /** What its rail can feed. */
  kinds: readonly string[];
}

/** The charger between a rail and a bare battery; without one it is a plain supply. */
function ChargerGroup({ link, at, set, kinds }: ChargerGroupProps) {
  const charger = link.charger ?? null;
  const links = useDesign((state) => state.document?.links) ?? [];
  const others = links
    .filter((one) => one.id !== link.id && one.to === link.to && one.charger)
    .filter((one) => !one.charger?.shares_with)
    .map((one): [string, string] => [one.id, one.name]);
  if (!charger) {
    return (
      <p className="my-1 text-sm text-fix">
        ▲ Without a charger (a plain relay, an isolator, a supply) nothing limits the current or
        ends the charging. The findings offer one that suits.
      </p>
    );
  }
  return (
    <Group title="Charger">
      <ShelfRow subject={link.id} copy={charger.shelf ?? null} />
      {others.length || charger.shares_with ? (
        <Row name="In one box with" help="this one gives what the other leaves of its amps">
          <Choose<string>
            label="Charger: in one box with"
            value={charger.shares_with ?? ""}
            options={[["", "none"], ...others]}
            onChange={(id) =>
              set("charger box", { charger: { ...charger, shares_with: id || null } })
            }
          />
        </Row>
      ) : null}
      <ChargerFields
        value={charger}
        label="Charger"
        at={`${at}/charger`}
        kinds={kinds}
        set={(field, part) => set(`charger ${field}`, { charger: { ...charger, ...part } })}
      />
    </Group>
  );
}

function Brings({ link, row }: { link: Lead; row: LinkRow }) {
  const { evaluation } = useWorked();
  const key = (figure: string) => `link.${link.id}.${figure}`;
  if (row.fit !== "fits") return <p className="text-sm text-stop">It {row.says}.</p>;
  return (
    <>
      {link.charger ? (
        <Row name="Into the bank" help="hungry, no load on">
          <FigureButton of={key("given_a")} className="font-semibold" />
        </Row>
      ) : null}
      <Row name="Power at the input">
        <FigureButton of={key("watts")} className="font-semibold" />
        <span className="text-sm" data-part="binds">
          limited by {row.binds}: {row.held_by}
        </span>
      </Row>
      <ul className="my-1 text-sm" aria-label="Limits on its way">
        {row.limits.map((limit) => {
          const binds = limit.name === row.deciding;
          const share = Math.min(limit.used / limit.limit, 1);
          return (
            <li
              key={`${limit.binds} ${limit.name}`}
              className="flex items-center gap-2 py-0.5"
              data-binds={binds}
            >
              <span className="w-44 shrink-0">
                {binds ? <strong>▸ {limit.name}</strong> : limit.name}
              </span>
              <svg width="90" height="9" aria-hidden="true">
                <rect width="90" height="9" rx="2" fill="var(--bench)" stroke="var(--edge)" />
                <rect
                  width={90 * share}
                  height="9"
                  rx="2"
                  fill={binds ? "var(--fix)" : "var(--river)"}
                />
              </svg>
              <span className="text-soft">
                {quantity(limit.used, limit.unit)} of {quantity(limit.limit, limit.unit)}
              </span>
            </li>
          );
        })}
      </ul>
      <Row name="Out of the source">
        <FigureButton of={key("source_a")} className="font-semibold" />
        <span className="text-soft text-sm">
          at its least charge <FigureButton of={key("source_least_a")} />
        </span>
      </Row>
      <Row name="Hours to fill" help="with no load on">
        <FigureButton of={key("refill_h")} className="font-semibold" />
        <span className="text-soft text-sm">
          from its reserve <FigureButton of={key("from_empty_h")} />
        </span>
      </Row>
      <p className="text-soft text-sm">{row.fills}.</p>
      {evaluation.figures[key("combined")] ? (
        <Row name="Together" help="never the sum of the labels">
          <FigureButton of={key("combined")} className="font-semibold" />
        </Row>
      ) : null}
    </>
  );
}
