import type { Judged } from "../../api/types";
import { quantity } from "../../lib/format";

const LOOKS: Record<Judged["verdict"], { shape: string; word: string; colour: string }> = {
  good: { shape: "✓", word: "Good", colour: "text-moss" },
  watch: { shape: "◆", word: "Watch", colour: "text-watch" },
  bad: { shape: "⬣", word: "Bad", colour: "text-stop" },
  open: { shape: "○", word: "Open", colour: "text-soft" },
  "says nothing": { shape: "○", word: "Says nothing", colour: "text-soft" },
};

/** What a reading says, what the plan expected, what to do, and the sums behind it. */
export function JudgedLine({ judged }: { judged: Judged }) {
  const look = LOOKS[judged.verdict];
  return (
    <div className="text-sm" data-verdict-of={judged.verdict}>
      <p className={look.colour}>
        <span aria-hidden="true">{look.shape} </span>
        <strong>{look.word}.</strong> {judged.says}
      </p>
      {judged.do ? <p>{judged.do}</p> : null}
      {judged.expected ? <p className="text-soft text-xs">The plan: {judged.expected}</p> : null}
      {judged.results?.length ? (
        <ul className="mt-0.5 text-soft text-xs">
          {judged.results.map((one) => (
            <li key={one.name}>
              {one.name}: {one.working.includes("=") ? null : `${quantity(one.value, one.unit)}, `}
              {one.working}
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
