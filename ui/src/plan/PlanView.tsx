import { Tabs } from "radix-ui";
import { useEffect, useState } from "react";
import { Verdict } from "../verdict/Verdict";
import { VerdictStrip } from "../verdict/VerdictStrip";
import { AssumptionsPanel } from "./AssumptionsPanel";
import { BankPanel } from "./BankPanel";
import { Drawing } from "./Drawing";
import { InverterPanel } from "./InverterPanel";
import { LoadsPanel } from "./LoadsPanel";
import { NeededPanel } from "./NeededPanel";
import { PANELS, type PanelName } from "./panels";

const CONTENTS: Record<PanelName, () => React.ReactNode> = {
  loads: LoadsPanel,
  bank: BankPanel,
  inverter: InverterPanel,
  needed: NeededPanel,
  assumptions: AssumptionsPanel,
};

const typing = (target: EventTarget | null) =>
  target instanceof HTMLElement && target.matches("input:not([type=checkbox]), select, textarea");

/** Plan: the system drawn, what is selected opened below it, the verdict beside both. */
export function PlanView() {
  const [panel, setPanel] = useState<PanelName>("loads");

  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || typing(event.target)) return;
      const wanted = PANELS.find(([, , key]) => key === event.key)?.[0];
      if (wanted) setPanel(wanted);
      if (event.key === "/") {
        event.preventDefault();
        setPanel("loads");
        setTimeout(() => document.getElementById("quick-entry")?.focus());
      }
    };
    window.addEventListener("keydown", press);
    return () => window.removeEventListener("keydown", press);
  }, []);

  return (
    <>
      <VerdictStrip />
      <main className="lg:grid lg:min-h-[calc(100vh-3.25rem)] lg:grid-cols-[minmax(0,1fr)_21.5rem]">
        <div className="min-w-0">
          <div className="border-line border-b bg-bench px-3 py-2">
            <Drawing onOpen={setPanel} />
          </div>
          <Tabs.Root value={panel} onValueChange={(value) => setPanel(value as PanelName)}>
            <Tabs.List
              className="flex gap-1 overflow-x-auto border-line border-b px-4 pt-2"
              aria-label="Parts of the design"
            >
              {PANELS.map(([name, title]) => (
                <Tabs.Trigger
                  key={name}
                  value={name}
                  className="whitespace-nowrap border-transparent border-b-3 px-2.5 py-1.5 text-soft data-[state=active]:border-river data-[state=active]:font-semibold data-[state=active]:text-ink"
                >
                  {title}
                </Tabs.Trigger>
              ))}
            </Tabs.List>
            {PANELS.map(([name, title]) => {
              const Content = CONTENTS[name];
              return (
                <Tabs.Content key={name} value={name} className="px-5 py-3" data-panel={name}>
                  <h2 className="sr-only">{title}</h2>
                  <Content />
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
    </>
  );
}
