import type { Generator, Mains, Sun, Vehicle } from "../api/types";
import { quantity } from "../lib/format";
import { Frame, Thing } from "./Boxes";
import type { PlacedBox } from "./placed";

type Source = Vehicle | Mains | Generator | Sun;

/** A source: what it gives, and when. */
export function SourceBox({ box, source }: { box: PlacedBox; source: Source }) {
  const [what, when] = wordsOf(source);
  return (
    <Thing id={source.id} words={`${source.name}: ${what}, ${when}`}>
      <Frame box={box} title={source.name} lines={box.h > 60 ? [what, when] : [what]} />
    </Thing>
  );
}

function wordsOf(source: Source): [string, string] {
  switch (source.kind) {
    case "vehicle":
      return [
        `${quantity(source.running_v, "V")} · up to ${quantity(source.limit_a, "A")}`,
        "engine running",
      ];
    case "mains":
      return [
        `mains · up to ${quantity(source.socket_a, "A")}`,
        source.times ? "at its times" : "always there",
      ];
    case "generator":
      return [`generator · ${quantity(source.watts, "W")}`, "while it runs"];
    default: {
      const count = source.series * source.parallel;
      const watts = quantity(source.panel.watts * count, "W");
      return [
        count > 1 ? `${watts} · ${source.series}S ${source.parallel}P` : watts,
        "by daylight",
      ];
    }
  }
}
