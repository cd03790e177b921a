import { isStation, removeLoads, withoutLink } from "../../design/edits";
import { PANELS, type PanelName, panelsOf } from "../../design/panels";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useShortcuts } from "../../lib/keys";
import { useNotice } from "../../lib/notice";
import { useBuildNow } from "../construction/use-build";

/** What is selected, as the keys see it. */
function selection() {
  const design = useDesign.getState().document;
  const { selected, chosen } = usePlan.getState();
  const load = design?.loads.find((one) => one.id === selected);
  return {
    design,
    selected,
    load,
    loads: chosen.length ? chosen : load ? [load.id] : [],
    stage: design?.stages.find((one) => one.id === selected),
    link: design?.links.find((one) => one.id === selected),
  };
}

/** The keys of the Plan. */
export function usePlanKeys() {
  const { show, ask } = usePlan();
  const buildNow = useBuildNow();
  const change = useDesign((state) => state.change);
  const undo = useDesign((state) => state.undo);
  const notify = useNotice((state) => state.notify);
  const removed = (what: string) => notify(what, { label: "Undo", act: undo });

  const remove = () => {
    const { loads, stage, link } = selection();
    if (link) {
      change("remove a link", (d) => withoutLink(d, link.id));
      removed(`${link.name} is removed.`);
    } else if (stage) ask({ what: "remove", stage: stage.id });
    else if (loads.length) {
      change("delete loads", (d) => removeLoads(d, loads));
      removed(`Deleted ${loads.length === 1 ? "a load" : `${loads.length} loads`}.`);
    }
  };
  const open = (name: PanelName) => () => {
    if (panelsOf(useDesign.getState().document).some(([one]) => one === name)) show(name);
  };
  const panels = Object.fromEntries(PANELS.map(([name]) => [name, open(name)]));
  useShortcuts({
    ...panels,
    entry: () => {
      show("loads");
      setTimeout(() => document.getElementById("quick-entry")?.focus());
    },
    add: () => {
      const { selected, load } = selection();
      ask({ what: "add", on: selected && !load ? selected : "" });
    },
    move: () => {
      const { loads } = selection();
      if (loads.length) ask({ what: "move", loads });
    },
    regulator: () => {
      const { load } = selection();
      if (load) void buildNow({ ask: "regulator", before: load.id });
    },
    connect: () => {
      const { design, selected } = selection();
      const to =
        design?.stores.find((one) => one.id === selected) ?? design?.stores.find(isStation);
      if (to) ask({ what: "lead", to: to.id });
    },
    remove,
  });
}
