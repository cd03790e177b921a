import { useState } from "react";
import { api } from "../../api/client";
import type { Design, Sheet, SheetPart } from "../../api/types";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { useWorked } from "../../design/use-evaluation";
import { Drawing } from "../../drawing/Drawing";
import { Answered } from "../../editor/Answered";
import { useNotice } from "../../lib/notice";
import { saveFile } from "../../lib/save-file";
import { useSettings } from "../../lib/settings";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { Tick } from "../../ui/Tick";
import { BuildOrder } from "./BuildOrder";
import { Card } from "./Card";
import { Cover, Labels, Shopping, Wiring } from "./Parts";

const PARTS: readonly (readonly [SheetPart, string])[] = [
  ["cover", "Cover"],
  ["shopping", "To buy"],
  ["wiring", "Wiring and cut list"],
  ["labels", "Label strips"],
  ["build", "Build order"],
  ["card", "Card for the door"],
];

/** The sheet: what is printed, in parts that can be left out. */
export default function SheetView() {
  const design = useDesign((state) => state.document);
  const answer = useAnswer("sheet", (now, signal) => api.sheet(now, signal));
  if (!design) return null;
  return (
    <Answered answer={answer} loading="Making the sheet" failed="The sheet cannot be made">
      {(sheet) => (
        <Screen design={design} sheet={sheet} fresh={answer.standing.status === "fresh"} />
      )}
    </Answered>
  );
}

interface ScreenProps {
  design: Design;
  sheet: Sheet;
  fresh: boolean;
}

function Screen({ design, sheet, fresh }: ScreenProps) {
  const [chosen, setChosen] = useState<ReadonlySet<SheetPart>>(
    new Set(PARTS.map(([part]) => part)),
  );
  const [paper, setPaper] = useState<"A4" | "Letter">("A4");
  const [prices, setPrices] = useState(true);
  const [making, setMaking] = useState(false);
  const revision = useDesign((state) => state.base);
  const currency = useSettings((state) => state.currency);
  const notify = useNotice((state) => state.notify);
  const toggle = (part: SheetPart) => {
    const next = new Set(chosen);
    if (!next.delete(part)) next.add(part);
    setChosen(next);
  };
  const download = async (prints: "html" | "pdf") => {
    setMaking(true);
    try {
      const parts = PARTS.map(([part]) => part).filter((part) => chosen.has(part));
      const asked = { design, parts, paper, prints, currency, prices };
      const file = await api.printSheet(revision ? { ...asked, revision } : asked);
      saveFile(file, `${design.name}.${prints}`);
    } catch (error) {
      notify(`Not made: ${(error as Error).message}`);
    } finally {
      setMaking(false);
    }
  };
  const picture = async (kind: "svg" | "png") => {
    setMaking(true);
    try {
      const asked = { design, picture: kind };
      saveFile(
        await api.drawing(revision ? { ...asked, revision } : asked),
        `${design.name}.${kind}`,
      );
    } catch (error) {
      notify(`Not made: ${(error as Error).message}`);
    } finally {
      setMaking(false);
    }
  };
  const none = chosen.size === 0;
  return (
    <main className="mx-auto max-w-240 px-4 py-2">
      <div
        className="no-print flex flex-wrap items-center gap-x-5 gap-y-2 border-line border-b pb-2 text-sm"
        data-part="choices"
      >
        <h1 className="text-lg">Sheet</h1>
        {PARTS.map(([part, name]) => (
          <span key={part} className="flex items-center gap-1.5">
            <Tick label={name} checked={chosen.has(part)} onChange={() => toggle(part)} />
            {name}
          </span>
        ))}
        <span className="flex items-center gap-1.5">
          <Tick label="With prices" checked={prices} onChange={() => setPrices(!prices)} />
          with prices
        </span>
        <Choose
          label="Paper"
          value={paper}
          options={[
            ["A4", "A4"],
            ["Letter", "Letter"],
          ]}
          onChange={setPaper}
        />
        <span className="flex flex-wrap gap-2">
          <Button onClick={() => window.print()} disabled={none || !fresh}>
            Print
          </Button>
          <Button onClick={() => void download("pdf")} disabled={none || making || !fresh}>
            {making ? "Making it…" : "PDF"}
          </Button>
          <Button onClick={() => void download("html")} disabled={none || making || !fresh}>
            HTML
          </Button>
        </span>
        <span className="flex items-center gap-2">
          Drawing
          {(["svg", "png"] as const).map((kind) => (
            <Button
              key={kind}
              look="quiet"
              onClick={() => void picture(kind)}
              disabled={making || !fresh}
            >
              {kind.toUpperCase()}
            </Button>
          ))}
        </span>
      </div>
      {none ? <p className="mt-4 text-soft">Tick what is to be printed.</p> : null}
      {chosen.has("cover") ? (
        <Cover sheet={sheet}>
          <Plan design={design} />
          <p className="text-soft text-xs">{sheet.drawn}</p>
        </Cover>
      ) : null}
      {chosen.has("shopping") ? <Shopping sheet={sheet} prices={prices} /> : null}
      {chosen.has("wiring") ? <Wiring sheet={sheet} /> : null}
      {chosen.has("labels") ? <Labels labels={sheet.labels} /> : null}
      {chosen.has("build") ? <BuildOrder steps={sheet.steps} /> : null}
      {chosen.has("card") ? <Card sheet={sheet} revision={revision} /> : null}
    </main>
  );
}

const NOTHING: ReadonlySet<string> = new Set();
const ignore = () => undefined;

/** The drawing, to look at only. */
function Plan({ design }: { design: Design }) {
  const { evaluation } = useWorked();
  return (
    <Drawing
      maxHeight="none"
      lengths
      design={design}
      evaluation={evaluation}
      moment={null}
      changed={NOTHING}
      selected={null}
      onSelect={ignore}
      onOpen={ignore}
    />
  );
}
