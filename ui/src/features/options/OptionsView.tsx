import { Tabs } from "radix-ui";
import { useEffect, useState } from "react";
import { api } from "../../api/client";
import { useDesign } from "../../design/store";
import { useWorked } from "../../design/use-evaluation";
import { FigureButton } from "../../editor/FigureButton";
import { readAddress, writeAddress } from "../../lib/address";
import { TabList } from "../../ui/TabList";
import { VerdictStrip } from "../../verdict/VerdictStrip";
import { LeversTable } from "./LeversTable";
import { SideBySide } from "./SideBySide";
import { SizeIt } from "./SizeIt";
import { Sweeps } from "./Sweeps";

const TABS = [
  ["size", "Size it for me", SizeIt],
  ["sides", "Side by side", SideBySide],
  ["levers", "What buys the most hours", LeversTable],
  ["sweeps", "Hours against one thing", Sweeps],
] as const;

/** Options: other systems for the same loads, single changes, and how hours answer to one thing. */
export default function OptionsView() {
  const { evaluation } = useWorked();
  const design = useDesign((state) => state.document);
  const [open, setOpen] = useState(
    () => TABS.find(([name]) => name === readAddress("tab"))?.[0] ?? TABS[0][0],
  );
  useEffect(() => writeAddress({ tab: open === TABS[0][0] ? "" : open }), [open]);
  useEffect(() => {
    // Without them a search only begins later.
    api.wake().catch(() => undefined);
  }, []);
  if (!design) return null;
  return (
    <>
      <VerdictStrip />
      <main className="min-w-0 px-4 py-2">
        <h1 className="text-lg">
          Options <span className="font-normal text-soft text-sm">now </span>
          <FigureButton of="run.hours" className="text-sm">
            {evaluation.verdict.lasts}
          </FigureButton>
        </h1>
        <Tabs.Root value={open} onValueChange={(value) => setOpen(value as typeof open)}>
          <TabList label="Ways to decide" tabs={TABS} />
          {TABS.map(([name, title, Content]) => (
            <Tabs.Content key={name} value={name} className="py-3" data-option={name}>
              <h2 className="sr-only">{title}</h2>
              <Content />
            </Tabs.Content>
          ))}
        </Tabs.Root>
      </main>
    </>
  );
}
