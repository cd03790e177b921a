import { useEffect } from "react";
import { isStation, removeLoads } from "../../design/edits";
import { panelsOf } from "../../design/panels";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useNotice } from "../../lib/notice";
import { useBuildNow } from "../construction/use-build";

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.matches("input:not([type=checkbox]), select, textarea");

/** The keys of the Plan, from wherever no text is being typed. */
export function usePlanKeys() {
  const { show, ask } = usePlan();
  const buildNow = useBuildNow();
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      const design = useDesign.getState().document;
      const { selected, chosen, asking } = usePlan.getState();
      if (!design || asking) return;
      const wanted = panelsOf(design).find(([, , key]) => key === event.key)?.[0];
      if (wanted) show(wanted);
      if (event.key === "/") {
        event.preventDefault();
        show("loads");
        setTimeout(() => document.getElementById("quick-entry")?.focus());
      }
      const load = design.loads.find((one) => one.id === selected);
      const stage = design.stages.find((one) => one.id === selected);
      const loads = chosen.length ? chosen : load ? [load.id] : [];
      if (event.key === "a") {
        event.preventDefault();
        ask({ what: "add", on: selected && !load ? selected : "" });
      }
      if (event.key === "m" && loads.length) {
        event.preventDefault();
        ask({ what: "move", loads });
      }
      if (event.key === "r" && load) void buildNow({ ask: "regulator", before: load.id });
      const lead = design.links.find((one) => one.id === selected);
      if (event.key === "l") {
        const to =
          design.stores.find((one) => one.id === selected) ?? design.stores.find(isStation);
        if (to) ask({ what: "lead", to: to.id });
      }
      if (event.key === "Delete" && lead) {
        change("remove a link", (d) => ({ ...d, links: d.links.filter((x) => x.id !== lead.id) }));
        notify(`${lead.name} is removed.`, { label: "Undo", act: undo });
      } else if (event.key === "Delete" && stage) ask({ what: "remove", stage: stage.id });
      else if (event.key === "Delete" && loads.length) {
        change("delete loads", (d) => removeLoads(d, loads));
        notify(`Deleted ${loads.length === 1 ? "a load" : `${loads.length} loads`}.`, {
          label: "Undo",
          act: undo,
        });
      }
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, [show, ask, buildNow, change, undo, notify]);
}
