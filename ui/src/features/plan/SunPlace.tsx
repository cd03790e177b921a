import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useState } from "react";
import { api } from "../../api/client";
import { NumberField } from "../../editor/NumberField";
import { number } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Row } from "../../ui/Row";
import { SunFile } from "./SunFile";

interface SunPlaceProps {
  months: readonly string[];
  latitude: number;
  /** Take sun hours by month, worked out for a latitude. */
  onUse: (hours: readonly number[], latitude: number) => void;
}

const SOUTH = 180;

/** Sun hours worked out from a place, the tilt of the panels and how clear its sky is. */
export function SunPlace({ months, latitude: begin, onUse }: SunPlaceProps) {
  const [latitude, setLatitude] = useState(begin);
  const [tilt, setTilt] = useState(0);
  const [azimuth, setAzimuth] = useState(begin >= 0 ? SOUTH : 0);
  const [clearness, setClearness] = useState<number[] | null>(null);
  const { data, error, isPlaceholderData } = useQuery({
    queryKey: ["sun", latitude, tilt, azimuth, clearness],
    queryFn: ({ signal }) => api.sunPlace(latitude, tilt, azimuth, clearness, signal),
    placeholderData: keepPreviousData,
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const used = clearness ?? data?.clearness ?? null;
  return (
    <div data-part="sun-place">
      <Row name="Latitude" help="south negative">
        <NumberField
          label="Place: latitude"
          unit="°"
          width="w-16"
          signed
          value={latitude}
          path="/latitude"
          onChange={setLatitude}
        />
      </Row>
      <Row name="Tilt, facing" help="flat is 0°; north 0°, east 90°, south 180°, west 270°">
        <NumberField
          label="Place: tilt"
          unit="° from flat,"
          width="w-16"
          value={tilt}
          path="/tilt"
          onChange={setTilt}
        />
        <NumberField
          label="Place: facing"
          unit="°"
          width="w-16"
          value={azimuth}
          path="/azimuth"
          onChange={setAzimuth}
        />
      </Row>
      <p className="my-1 text-soft text-sm">
        Clearness: the mean horizontal sun of a month over that under a clear sky. A yield map gives
        the mean; here it stands as usual some 50° north until you type yours.
      </p>
      {error ? (
        <p role="alert" className="text-sm text-stop">
          {error.message}
        </p>
      ) : null}
      {data && used ? (
        <>
          <table className="text-sm">
            <thead>
              <tr className="text-left text-soft">
                {["Month", "Clearness", "Clear, flat", "Mean, flat", "On the panel"].map((head) => (
                  <th key={head} scope="col" className="pr-4 font-medium">
                    {head}
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {months.map((name, month) => (
                <tr key={name} data-month={name}>
                  <th scope="row" className="pr-4 text-left font-normal">
                    {name}
                  </th>
                  <td className="pr-4">
                    <NumberField
                      label={`Clearness: ${name}`}
                      as="share"
                      unit="%"
                      width="w-14"
                      value={used[month] ?? 0}
                      path={`/clearness/${month}`}
                      onChange={(value) =>
                        setClearness(used.map((old, n) => (n === month ? value : old)))
                      }
                    />
                  </td>
                  <td className="pr-4 text-right">{number(data.clear[month] ?? 0)}</td>
                  <td className="pr-4 text-right">{number(data.flat[month] ?? 0)}</td>
                  <td className="pr-4 text-right font-semibold">
                    {number(data.plane[month] ?? 0)}
                  </td>
                </tr>
              ))}
            </tbody>
          </table>
          <Button
            look="main"
            // What is shown may still be of the place before.
            disabled={isPlaceholderData}
            onClick={() =>
              onUse(
                data.plane.map((one) => Number(one.toFixed(2))),
                latitude,
              )
            }
          >
            Use these sun hours
          </Button>
        </>
      ) : error ? null : (
        <p className="text-soft text-sm">Following the sun …</p>
      )}
      <SunFile
        key={`${latitude} ${tilt} ${azimuth}`}
        months={months}
        latitude={latitude}
        tilt={tilt}
        azimuth={azimuth}
        onUse={(hours) => onUse(hours, latitude)}
      />
    </div>
  );
}
