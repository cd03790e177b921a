import { Tabs } from "radix-ui";
import { type ComponentType, lazy, Suspense, useEffect } from "react";
import { type PanelName, panelsOf } from "../../design/panels";
import { usePlan } from "../../design/selection";
import { useDesign } from "../../design/store";
import { useSettings } from "../../lib/settings";
import { TabList } from "../../ui/TabList";
import { Verdict } from "../../verdict/Verdict";
import { VerdictStrip } from "../../verdict/VerdictStrip";
import { Divider } from "./Divider";
import { LoadsPanel } from "./LoadsPanel";
import { Sketch } from "./Sketch";
import { usePlanAddress } from "./use-plan-address";
import { usePlanKeys } from "./use-plan-keys";

const later = () => import("./later");
const AddDialog = lazy(() => later().then((all) => ({ default: all.AddDialog })));
const LeadDialog = lazy(() => later().then((all) => ({ default: all.LeadDialog })));
const MoveDialog = lazy(() => later().then((all) => ({ default: all.MoveDialog })));
const RemoveDialog = lazy(() => later().then((all) => ({ default: all.RemoveDialog })));
const StoreDialog = lazy(() => later().then((all) => ({ default: all.StoreDialog })));
const PickPartDialog = lazy(() => later().then((all) => ({ default: all.PickPartDialog })));
const AssumptionsPanel = lazy(() => later().then((all) => ({ default: all.AssumptionsPanel })));
const LeadsPanel = lazy(() => later().then((all) => ({ default: all.LeadsPanel })));
const NeededPanel = lazy(() => later().then((all) => ({ default: all.NeededPanel })));
const RoutesPanel = lazy(() => later().then((all) => ({ default: all.RoutesPanel })));
const StagesPanel = lazy(() => later().then((all) => ({ default: all.StagesPanel })));
const StoresPanel = lazy(() => later().then((all) => ({ default: all.StoresPanel })));

/** Fetch the panels and dialogs that are not open yet. */
export function fetchPanels(): void {
  later().catch(() => undefined);
}

const CONTENTS: Record<PanelName, ComponentType> = {
  loads: LoadsPanel,
  bank: StoresPanel,
  stages: StagesPanel,
  needed: NeededPanel,
  assumptions: AssumptionsPanel,
  leads: LeadsPanel,
  routes: RoutesPanel,
};

/** Plan: the system drawn, what is selected opened below it, the verdict beside both. */
export function PlanView() {
  const { panel, show, reset } = usePlan();
  const folded = useSettings((state) => state.drawingFolded);
  const design = useDesign((state) => state.document);
  const panels = panelsOf(design);
  const open = panels.some(([name]) => name === panel) ? panel : "loads";
  usePlanKeys();
  usePlanAddress();
  useEffect(() => reset, [reset]);
  return (
    <>
      <VerdictStrip />
      <main className="lg:grid lg:min-h-[calc(100vh-3.25rem)] lg:grid-cols-[minmax(0,1fr)_21.5rem]">
        <div className="min-w-0">
          <h1 className="sr-only print:not-sr-only print:p-3 print:text-2xl">
            {design?.name}
            <span className="print:hidden">: Plan</span>
          </h1>
          <div className="bg-bench px-3 pt-1.5 pb-1">
            <Sketch />
          </div>
          {folded ? null : <Divider />}
          <Tabs.Root value={open} onValueChange={(value) => show(value as PanelName)}>
            <TabList label="Parts of the design" tabs={panels} className="px-4 pt-2" />
            {panels.map(([name, title]) => {
              const Content = CONTENTS[name];
              return (
                <Tabs.Content key={name} value={name} className="px-5 py-3" data-panel={name}>
                  <h2 className="sr-only">{title}</h2>
                  <Suspense fallback={null}>
                    <Content />
                  </Suspense>
                </Tabs.Content>
              );
            })}
          </Tabs.Root>
        </div>
        <aside
          id="verdict"
          aria-label="Verdict"
          className="border-line bg-bench px-5 py-4 max-lg:border-t lg:sticky lg:top-13 lg:h-[calc(100vh-3.25rem)] lg:overflow-y-auto lg:border-l"
        >
          <Verdict />
        </aside>
      </main>
      <Suspense fallback={null}>
        <Dialogs />
      </Suspense>
    </>
  );
}

function Dialogs() {
  const asking = usePlan((state) => state.asking);
  if (!asking) return null;
  if (asking.what === "add") return <AddDialog on={asking.on} />;
  if (asking.what === "store") return <StoreDialog />;
  if (asking.what === "lead") return <LeadDialog to={asking.to} />;
  if (asking.what === "move") return <MoveDialog loads={asking.loads} />;
  if (asking.what === "remove") return <RemoveDialog stage={asking.stage} />;
  return <PickPartDialog subject={asking.subject} />;
}
