import { useQuery } from "@tanstack/react-query";
import { api } from "../../api/client";
import type { KeptLog, Thinned } from "../../api/types";
import { useDesign } from "../../design/store";
import { hours, quantity } from "../../lib/format";
import { areaOf, FIGURES, rangeOf } from "./log-picture";

const WIDTH = 720;
const HEIGHT = 90;

/** A log over time, a strip for each figure: the mean as a line, least to most as a band. */
export function LogPicture({ log }: { log: KeptLog }) {
  const id = useDesign((state) => state.id);
  const picture = useQuery({
    queryKey: ["log-picture", id, log.id],
    queryFn: ({ signal }) => api.logPicture(id, log.id, WIDTH / 2, signal),
  });
  if (picture.isError) {
    return (
      <p role="alert" className="text-sm text-stop">
        The log cannot be drawn: {picture.error.message}
      </p>
    );
  }
  if (!picture.data) return <p className="text-soft text-sm">Fetching the log …</p>;
  const { data } = picture;
  return (
    <div className="mt-1 max-w-180" data-part="log-picture">
      {FIGURES.filter(({ key }) => data.mean[key]).map((figure) => (
        <Strip key={figure.key} data={data} figure={figure} until={log.ends_s} />
      ))}
      <p className="flex justify-between text-soft text-xs">
        <span>0</span>
        <span>{hours(log.ends_s / 3600)}</span>
      </p>
    </div>
  );
}

interface StripProps {
  data: Thinned;
  figure: (typeof FIGURES)[number];
  until: number;
}

function Strip({ data, figure, until }: StripProps) {
  const { key, unit, name } = figure;
  const [low, high] = rangeOf(data, key);
  const { band, line } = areaOf(data, key, until, [low, high], [WIDTH, HEIGHT]);
  return (
    <figure className="border-line border-t">
      <figcaption className="text-soft text-xs">
        {name}, {quantity(low, unit)} to {quantity(high, unit)}
      </figcaption>
      <svg
        viewBox={`0 0 ${WIDTH} ${HEIGHT}`}
        className="block w-full"
        role="img"
        aria-label={`${name} over time, ${quantity(low, unit)} to ${quantity(high, unit)}`}
        preserveAspectRatio="none"
      >
        <path d={band} className="fill-river opacity-25" />
        <path
          d={line}
          className="fill-none stroke-river"
          strokeWidth={1.5}
          vectorEffect="non-scaling-stroke"
        />
      </svg>
    </figure>
  );
}
