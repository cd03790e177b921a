import type { Fuse } from "../../api/types";
import { fuseKindsFor } from "../../design/cable-text";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { NumberField } from "../../editor/NumberField";
import { Choose } from "../../ui/Choose";
import { Group, Row } from "../../ui/Row";
import type { FuseKind, PartProps } from "./part-props";
import { withEndFuse } from "./wiring";

/** The fuse where a charging cable ends at a battery. */
export function EndFuse({ row, set }: PartProps) {
  const { reference } = useWorked();
  const design = useDesign((state) => state.document);
  const link = design?.links.find((one) => one.id === row.subject);
  const fuse = link?.end_fuse ?? null;
  const proposed = row.proposed_end_fuse;
  const change = (what: string, part: Partial<Fuse>) =>
    set(what, (d) => withEndFuse(d, row, { ...part }));
  return (
    <Group title="Fuse at the battery's end">
      <Row name="Amps" help="the battery feeds a short circuit from there">
        <NumberField
          label={`${row.name}: fuse at the battery`}
          unit="A"
          width="w-14"
          placeholder={proposed ? String(proposed.amps) : "–"}
          value={fuse?.amps ?? null}
          path={`${row.path}/end_fuse/amps`}
          onChange={(amps) => change("fuse at the battery", { amps })}
          onClear={() => set("fuse at the battery", (d) => withEndFuse(d, row, null))}
        />
        <Choose
          label={`${row.name}: kind of the fuse at the battery`}
          value={(fuse?.kind ?? "") as string}
          options={fuseKindsFor(reference)}
          onChange={(kind) => change("fuse at the battery", { kind: (kind || null) as FuseKind })}
        />
      </Row>
    </Group>
  );
}
