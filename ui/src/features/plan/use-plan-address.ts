import { useEffect } from "react";
import { PANELS } from "../../design/panels";
import { usePlan } from "../../design/selection";
import { readAddress, writeAddress } from "../../lib/address";

type DrawnAt = "most" | "worst" | number;

/** What is looked at on the Plan stands in its address: panel, selected thing, opened load, moment. */
export function usePlanAddress() {
  useEffect(() => {
    const panel = PANELS.find(([name]) => name === readAddress("panel"))?.[0];
    const selected = readAddress("selected");
    const opened = readAddress("load");
    usePlan.setState({
      ...(panel ? { panel } : {}),
      ...(selected ? { selected } : {}),
      ...(opened ? { opened } : {}),
      drawnAt: drawnAt(readAddress("at")),
    });
    return usePlan.subscribe((state, before) => {
      if (
        state.panel === before.panel &&
        state.selected === before.selected &&
        state.opened === before.opened &&
        state.drawnAt === before.drawnAt
      ) {
        return;
      }
      writeAddress({
        panel: state.panel === "loads" ? "" : state.panel,
        selected: state.selected ?? "",
        load: state.opened ?? "",
        at: state.drawnAt === "most" ? "" : String(state.drawnAt),
      });
    });
  }, []);
}

function drawnAt(text: string | null): DrawnAt {
  if (text === "worst") return text;
  const hours = text ? Number(text) : Number.NaN;
  return Number.isFinite(hours) ? hours : "most";
}
