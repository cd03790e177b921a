import type { Found, Searched } from "../../api/types";
import { hours, quantity } from "../../lib/format";
import { money } from "../../lib/own-units";

/** What is weighed, and what the best in it is called. */
export const PICKS = [
  ["cheapest", "Cheapest"],
  ["lightest", "Lightest"],
  ["longest", "Longest"],
  ["simplest", "Fewest boxes"],
  ["thriftiest", "Least lost"],
] as const;

/** What kind of system it is, in a few words. */
export function systemOf(found: Found): string {
  const store =
    found.system_v !== null
      ? `${found.system_v} V bank`
      : found.store === "station"
        ? "station"
        : "station fed by a battery";
  return `${store}, ${found.strategy}`;
}

/** Its price in a few words; cables and fuses count where the shelf has prices for them. */
function priceOf(found: Found): string {
  if (found.price === null) return "price unsaid";
  return `price ${money(found.price)}${found.unpriced.length ? " without all cables" : ""}`;
}

const named = (picks: readonly (typeof PICKS)[number][]) =>
  picks.map(([, word]) => word).join(" · ");

interface InWordsProps {
  best: readonly Found[];
  searched: Searched;
  onChoose: (key: string) => void;
}

/** The answers in words: the best in each thing, alike ones together, and what decided it. */
export function InWords({ best, searched, onChoose }: InWordsProps) {
  const picked = best.flatMap((one) => {
    const picks = PICKS.filter(([pick]) => searched.picks[pick] === one.key);
    return picks.length ? [{ one, picks }] : [];
  });
  const place = ({ picks }: (typeof picked)[number]) => (picks[0] ? PICKS.indexOf(picks[0]) : 0);
  picked.sort((a, b) => place(a) - place(b));
  return (
    <ul className="my-3 grid grid-cols-1 gap-2 sm:grid-cols-2 xl:grid-cols-3" data-part="in-words">
      {picked.map(({ one, picks }) => (
        <li key={one.key}>
          <button
            type="button"
            className="flex h-full w-full flex-col items-start rounded-lg border border-edge bg-card p-2.5 text-left text-sm hover:border-river"
            onClick={() => onChoose(one.key)}
            data-pick={picks.map(([pick]) => pick).join(" ")}
          >
            <span className="text-soft text-xs">{named(picks)}</span>
            <strong className="block leading-tight">{one.title}</strong>
            <span className="mt-1 block text-xs">{systemOf(one)}</span>
            <span className="mt-1 block">
              {priceOf(one)}, {one.mass_kg === null ? "mass unsaid" : quantity(one.mass_kg, "kg")},{" "}
              {one.hours === null ? "longer than simulated" : `lasts ${hours(one.hours)}`},{" "}
              <span className="whitespace-nowrap">
                {quantity(one.lost_wh, "Wh")} lost and idle a day
              </span>
            </span>
            <span className="mt-1 block text-soft text-xs">{one.decided}</span>
            {[...new Set(picks.map(([pick]) => searched.next_best[pick]).filter(Boolean))].map(
              (next) => (
                <span key={next} className="mt-1 block text-soft text-xs">
                  {picks.length > 1
                    ? `${named(picks.filter(([pick]) => searched.next_best[pick] === next))}. `
                    : ""}
                  {next}
                </span>
              ),
            )}
          </button>
        </li>
      ))}
    </ul>
  );
}
