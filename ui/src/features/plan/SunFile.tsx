import { useRef, useState } from "react";
import { api } from "../../api/client";
import type { HourlySun } from "../../api/types";
import { number, quantity } from "../../lib/format";
import { Button } from "../../ui/Button";

interface SunFileProps {
  months: readonly string[];
  latitude: number;
  tilt: number;
  azimuth: number;
  onUse: (hours: readonly number[]) => void;
}

type State =
  | { status: "empty" | "reading" }
  | { status: "failed"; reason: string }
  | { status: "read"; name: string; sun: HourlySun };

/** Sun hours from a year of hourly light that a weather service gives as a file. */
export function SunFile({ months, latitude, tilt, azimuth, onUse }: SunFileProps) {
  const [state, setState] = useState<State>({ status: "empty" });
  const control = useRef<AbortController | null>(null);
  const read = async (file: File | undefined) => {
    if (!file) return;
    control.current?.abort();
    const mine = new AbortController();
    control.current = mine;
    setState({ status: "reading" });
    try {
      const sun = await api.sunFile(await file.text(), latitude, tilt, azimuth, mine.signal);
      if (!mine.signal.aborted) setState({ status: "read", name: file.name, sun });
    } catch (error) {
      if (!mine.signal.aborted) setState({ status: "failed", reason: (error as Error).message });
    }
  };
  return (
    <div data-part="sun-file" className="mt-2">
      <label className="block text-sm">
        A year of hourly light (CSV with month, day, hour and plane, or ghi, dni, dhi; or EPW)
        <input
          type="file"
          accept=".csv,.epw,.txt,text/csv,text/plain"
          className="mt-1 block"
          aria-label="File of hourly light"
          onChange={(event) => void read(event.target.files?.[0])}
        />
      </label>
      {state.status === "reading" ? <p className="text-soft text-sm">Reading the file …</p> : null}
      {state.status === "failed" ? (
        <p role="alert" className="text-sm text-stop">
          {state.reason}
        </p>
      ) : null}
      {state.status === "read" ? (
        <>
          <p className="my-1 text-sm">
            {state.name}, on panels tilted by {number(tilt)}°: the dullest fifth of its{" "}
            {state.sun.days} days has {quantity(state.sun.dull, "share")} of its month’s mean, the
            brightest {quantity(state.sun.bright, "share")}.
          </p>
          <ul className="grid grid-cols-4 gap-x-3 text-sm sm:grid-cols-6">
            {months.map((name, month) => (
              <li key={name} data-month={name}>
                <span className="text-2xs text-soft">{name}</span>{" "}
                {number(state.sun.plane[month] ?? 0)}
              </li>
            ))}
          </ul>
          <Button
            look="main"
            onClick={() => onUse(state.sun.plane.map((one) => Number(one.toFixed(2))))}
          >
            Use the file’s sun hours
          </Button>
        </>
      ) : null}
    </div>
  );
}
