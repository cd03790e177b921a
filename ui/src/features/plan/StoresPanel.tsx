import { firstStore, outletsOf } from "../../design/edits";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { Button } from "../../ui/Button";
import { useBuildNow } from "../construction/use-build";
import { BankPanel } from "./BankPanel";
import { GeneratorPanel } from "./GeneratorPanel";
import { MainsPanel } from "./MainsPanel";
import { Pick } from "./Pick";
import { StationPanel } from "./StationPanel";
import { SunPanel } from "./SunPanel";
import { VehiclePanel } from "./VehiclePanel";

/** The stores by name, and the selected one with all its fields. */
export default function StoresPanel() {
  const design = useDesign((state) => state.document);
  const { selected, ask } = usePlan();
  const buildNow = useBuildNow();
  if (!design) return null;
  const owner = outletsOf(design).find(({ outlet }) => outlet.id === selected)?.station;
  const store = owner ?? design.stores.find((one) => one.id === selected) ?? firstStore(design);
  return (
    <>
      <Pick name="Stores" things={design.stores} at={store.id}>
        <Button look="quiet" onClick={() => ask({ what: "store" })}>
          + Battery bank, station or source
        </Button>
        {design.stores.length > 1 ? (
          <Button
            look="danger"
            onClick={() => void buildNow({ ask: "remove store", store: store.id })}
          >
            Remove {store.name}
          </Button>
        ) : null}
      </Pick>
      {store.kind === "bank" ? <BankPanel key={store.id} bank={store} /> : null}
      {store.kind === "station" ? <StationPanel key={store.id} station={store} /> : null}
      {store.kind === "vehicle" ? <VehiclePanel key={store.id} vehicle={store} /> : null}
      {store.kind === "mains" ? <MainsPanel key={store.id} mains={store} /> : null}
      {store.kind === "generator" ? <GeneratorPanel key={store.id} generator={store} /> : null}
      {store.kind === "sun" ? <SunPanel key={store.id} sun={store} /> : null}
    </>
  );
}
