import type { BankLeads } from "../../api/types";
import { useDesign } from "../../design/store";
import { NumberField } from "../../editor/NumberField";
import { Row } from "../../ui/Row";
import type { PartProps } from "./part-props";
import { leadsOf, withJoined } from "./wiring";

/** The main switch of a bank: amps continuously, DC volts under load. */
export function DisconnectRow({ row, set }: PartProps) {
  const design = useDesign((state) => state.document);
  const given = design ? (leadsOf(design, row.subject)?.disconnect ?? null) : null;
  const at = `${row.path}/disconnect`;
  const proposed = row.proposed_bus_bar_a ?? row.least_fuse_a;
  const change = (what: string, part: Partial<NonNullable<BankLeads["disconnect"]>>) =>
    set(what, (d) =>
      withJoined(d, row, { disconnect: { amps: proposed, ...(given ?? {}), ...part } }),
    );
  return (
    <Row name="Main disconnect" help="continuous amps; DC volts it can open under load">
      <NumberField
        label={`${row.name}: disconnect`}
        unit="A"
        width="w-16"
        placeholder="none"
        value={given?.amps ?? null}
        path={`${at}/amps`}
        onChange={(amps) => change("disconnect", { amps })}
        onClear={() => set("disconnect", (d) => withJoined(d, row, { disconnect: null }))}
      />
      {given ? (
        <NumberField
          label={`${row.name}: disconnect volts`}
          unit="V"
          width="w-14"
          placeholder="unsaid"
          value={given.volts ?? null}
          path={`${at}/volts`}
          onChange={(volts) => change("disconnect volts", { volts })}
          onClear={() => change("disconnect volts", { volts: null })}
        />
      ) : null}
    </Row>
  );
}
