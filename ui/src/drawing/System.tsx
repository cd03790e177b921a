import { outletsOf } from "../design/edits";
import { StageBox, StoreBox, Strip } from "./Boxes";
import { Lead, RailLine } from "./Lines";
import { FoldLine, LoadLine } from "./Loads";
import type { Placed, PlacedBox } from "./placed";
import { SourceBox } from "./SourceBox";
import { LeadBox, OutletBox, StationBox } from "./StationBox";
import { useDrawn } from "./use-drawn";

interface SystemProps {
  placed: Placed;
  onToggle: (rail: string) => void;
}

/** Everything of a system where it was placed: the same on the screen and in a picture. */
export function System({ placed, onToggle }: SystemProps) {
  const { design, evaluation } = useDrawn();
  const strips = new Set(evaluation.joints.map((joint) => joint.subject));
  return (
    <>
      {placed.lines.map((line) => (
        <Lead key={line.key} line={line} narrow={placed.narrow} />
      ))}
      {placed.rails.map((rail) => (
        <RailLine key={rail.id} rail={rail} />
      ))}
      {placed.boxes.map((box) => (
        <AnyBox key={box.id} box={box} narrow={placed.narrow} />
      ))}
      {placed.strips.map((strip) => (
        <Strip key={strip.subject} {...strip} />
      ))}
      {placed.loose ? (
        <text x={placed.loose.x} y={placed.loose.y} fontSize={12} fill="var(--fix)">
          ▲ not connected yet
        </text>
      ) : null}
      {placed.loads.map((place) => {
        const load = design.loads.find((one) => one.id === place.id);
        return load ? (
          <LoadLine
            key={place.id}
            place={place}
            load={load}
            narrow={placed.narrow}
            strip={strips.has(place.id)}
          />
        ) : null;
      })}
      {placed.folds.map((place) => (
        <FoldLine key={place.rail} place={place} onToggle={onToggle} />
      ))}
    </>
  );
}

/** A box by what it stands for. */
function AnyBox({ box, narrow }: { box: PlacedBox; narrow: boolean }) {
  const { design } = useDrawn();
  const store = design.stores.find((one) => one.id === box.id);
  if (store?.kind === "bank") return <StoreBox box={box} bank={store} narrow={narrow} />;
  if (store?.kind === "station") return <StationBox box={box} station={store} />;
  if (store) return <SourceBox box={box} source={store} />;
  const link = design.links.find((one) => one.id === box.id);
  if (link) return <LeadBox box={box} link={link} />;
  const outlet = outletsOf(design).find((one) => one.outlet.id === box.id)?.outlet;
  if (outlet) return <OutletBox box={box} outlet={outlet} />;
  const stage = design.stages.find((one) => one.id === box.id);
  return stage ? <StageBox box={box} stage={stage} /> : null;
}
