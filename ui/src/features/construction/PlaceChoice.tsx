import { useEffect, useRef } from "react";
import type { Place } from "../../api/types";

const LOOKS: Record<Place["suits"], string> = {
  fits: "text-moss",
  "check its label": "text-watch",
  "cuts out early": "text-fix",
  "by its adapter": "text-watch",
  "does not fit": "text-stop",
};

interface PlaceChoiceProps {
  places: readonly Place[];
  value: string;
  onChange: (rail: string) => void;
  /** The rail they are connected to now. */
  now: string;
}

/** Rails to choose from, each with how it suits and why; and none at all. */
export function PlaceChoice({ places, value, onChange, now }: PlaceChoiceProps) {
  const list = useRef<HTMLFieldSetElement>(null);
  const known = places.length > 0;
  // The places come a moment after the dialog: then the focus goes to the one that is chosen.
  useEffect(() => {
    if (known) list.current?.querySelector<HTMLInputElement>("input:checked")?.focus();
  }, [known]);
  const none = { rail: "", name: "not connected yet", suits: null, why: "" };
  return (
    <fieldset ref={list} className="mt-3 space-y-1">
      <legend className="sr-only">Rail</legend>
      {[...places, none].map((place) => (
        <label
          key={place.rail}
          className="flex items-baseline gap-2 rounded border border-line px-2 py-1 text-sm has-checked:border-river has-checked:bg-river-wash"
        >
          <input
            type="radio"
            name="place"
            className="accent-river"
            value={place.rail}
            checked={place.rail === value}
            onChange={() => onChange(place.rail)}
          />
          <span>
            <strong>{place.name}</strong>
            {place.rail === now ? <span className="text-soft"> (now)</span> : null}
            {place.suits ? (
              <span className="block text-xs">
                <span className={LOOKS[place.suits]}>{place.suits}</span>
                <span className="text-soft">: {place.why}</span>
              </span>
            ) : null}
          </span>
        </label>
      ))}
    </fieldset>
  );
}
