import type { Sun } from "../../api/types";
import { withStore } from "../../design/edits";
import { PROVENANCES } from "../../design/labels";
import { useDesign } from "../../design/store";
import { NumberField } from "../../editor/NumberField";
import { TextField } from "../../editor/TextField";
import { Choose } from "../../ui/Choose";
import { Group, Row } from "../../ui/Row";
import { PanelFields } from "../fields/PanelFields";
import { ShelfRow } from "../shelf/ShelfRow";
import { SunPlace } from "./SunPlace";

const MONTHS = ["Jan", "Feb", "Mar", "Apr", "May", "Jun", "Jul", "Aug", "Sep", "Oct", "Nov", "Dec"];

/** Solar panels: their label, how they are joined, and the sun hours of each month. */
export function SunPanel({ sun }: { sun: Sun }) {
  const design = useDesign((state) => state.document);
  const change = useDesign((state) => state.change);
  if (!design) return null;
  const at = `/stores/${design.stores.indexOf(sun)}`;
  const set = (field: string, part: Partial<Sun>) =>
    change(`${sun.name}: ${field}`, (d) => withStore<Sun>(d, sun.id, part), `${sun.id}.${field}`);
  return (
    <div className="grid grid-cols-1 gap-x-10 lg:grid-cols-2">
      <Group title="Panels">
        <Row name="Name">
          <TextField
            label="Panels name"
            className="sm:w-72"
            value={sun.name}
            path={`${at}/name`}
            onChange={(name) => set("name", { name })}
          />
        </Row>
        <ShelfRow subject={sun.id} copy={sun.shelf ?? null} />
        <PanelFields
          value={sun.panel}
          label="Panel"
          at={`${at}/panel`}
          set={(field, part) => set(`panel ${field}`, { panel: { ...sun.panel, ...part } })}
        />
        <Row name="Joined" help="in series, strings side by side">
          <NumberField
            label="Panels in series"
            unit="in series ×"
            as="whole"
            width="w-14"
            value={sun.series}
            path={`${at}/series`}
            onChange={(series) => set("series", { series })}
          />
          <NumberField
            label="Strings of panels"
            unit="strings"
            as="whole"
            width="w-14"
            value={sun.parallel}
            path={`${at}/parallel`}
            onChange={(parallel) => set("strings", { parallel })}
          />
        </Row>
        <Row name="What is left" help="after dirt, heat and wires; and what shade takes">
          <NumberField
            label="Panels: yield"
            unit="%, shade"
            as="share"
            width="w-14"
            value={sun.yields}
            path={`${at}/yields`}
            onChange={(yields) => set("yield", { yields })}
          />
          <NumberField
            label="Panels: shade"
            unit="%"
            as="share"
            width="w-14"
            value={sun.shaded}
            path={`${at}/shaded`}
            onChange={(shaded) => set("shade", { shaded })}
          />
        </Row>
        <Row name="Source">
          <Choose
            label="Panels source"
            value={sun.provenance}
            options={PROVENANCES}
            onChange={(provenance) => set("source", { provenance })}
          />
        </Row>
      </Group>
      <Group title="Sun hours a day, on the plane of the panels">
        <p className="mb-1 text-soft text-sm">
          kWh/m² a day: the hours of full sun it adds up to. Those here are usual for a flat panel
          some 50° north; a yield map has those of your place. Flat on a roof gives about half of
          tilted in a northern December.
        </p>
        <div className="grid grid-cols-4 gap-x-3 gap-y-1 sm:grid-cols-6">
          {MONTHS.map((name, month) => (
            <div key={name} className="text-2xs text-soft">
              {name}
              <NumberField
                label={`Sun hours: ${name}`}
                width="w-14"
                value={sun.sun_hours[month] ?? 0}
                path={`${at}/sun_hours/${month}`}
                onChange={(value) =>
                  set(`sun hours of ${name}`, {
                    sun_hours: sun.sun_hours.map((old, n) => (n === month ? value : old)),
                  })
                }
              />
            </div>
          ))}
        </div>
        <details className="mt-2">
          <summary className="text-river text-sm" data-part="sun-place-opener">
            Work them out for a place
          </summary>
          <SunPlace
            months={MONTHS}
            latitude={design.week.latitude}
            onUse={(sun_hours, latitude) =>
              change(`${sun.name}: sun hours of a place`, (d) => ({
                ...withStore<Sun>(d, sun.id, { sun_hours: [...sun_hours] }),
                week: { ...d.week, latitude },
              }))
            }
          />
        </details>
      </Group>
    </div>
  );
}
