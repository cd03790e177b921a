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

interface InWordsProps {
  best: readonly Found[];
  searched: Searched;
  onChoose: (key: string) => void;
}

/** The answers in words: the best in each thing, and what decided it. */
export function InWords({ best, searched, onChoose }: InWordsProps) {
  return (
    <ul className="my-3 grid gap-2 sm:grid-cols-2 xl:grid-cols-5" data-part="in-words">
      {PICKS.map(([aim, word]) => {
        const one = best.find((found) => found.key === searched.picks[aim]);
        if (!one) return null;
        return (
          <li key={aim}>
            <button
              type="button"
              className="flex h-full w-full flex-col items-start rounded-lg border border-edge bg-card p-2.5 text-left text-sm hover:border-river"
              onClick={() => onChoose(one.key)}
              data-pick={aim}
            >
              <span className="text-soft text-xs">{word}</span>
              <strong className="block leading-tight">{one.title}</strong>
              <span className="mt-1 block text-xs">{systemOf(one)}</span>
              <span className="mt-1 block">
                {priceOf(one)}, {one.mass_kg === null ? "mass unsaid" : quantity(one.mass_kg, "kg")}
                , {one.hours === null ? "longer than simulated" : `lasts ${hours(one.hours)}`},{" "}
                <span className="whitespace-nowrap">
                  {quantity(one.lost_wh, "Wh")} lost and idle a day
                </span>
              </span>
              <span className="mt-1 block text-soft text-xs">{one.decided}</span>
              {searched.next_best[aim] ? (
                <span className="mt-1 block text-soft text-xs">{searched.next_best[aim]}</span>
              ) : null}
            </button>
          </li>
        );
      })}
    </ul>
  );
}
