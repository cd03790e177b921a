import { scaleLinear } from "d3-scale";
import type { Course } from "../../api/types";
import type { View } from "./geometry";
import { BOTTOM, FLAGS_H, LEFT } from "./Panes";
import { useShown } from "./use-course";

type Kind = Course["flags"][number]["kind"];

export const FLAG_COLOURS: Record<Kind, string> = {
  highest: "var(--watch)",
  "cuts out": "var(--stop)",
  restarts: "var(--moss)",
};
export const FLAG_SHAPES: Record<Kind, string> = {
  highest: "◆",
  "cuts out": "⬣",
  restarts: "●",
};

/** What happens, as flags on the time line; where two would cover one another, only the pole. */
export function Flags({ view, width }: { view: View; width: number }) {
  const { course } = useShown();
  const x = scaleLinear([view.from, view.to], [LEFT, width - 8]);
  let free = Number.NEGATIVE_INFINITY;
  return course.flags.map((flag, index) => {
    if (flag.hours < view.from || flag.hours > view.to) return null;
    const at = x(flag.hours);
    const long = flag.short.length * 6.4 + 24;
    const start = Math.min(at, width - 8 - long);
    const shown = start >= free;
    if (shown) free = start + long + 3;
    const colour = FLAG_COLOURS[flag.kind];
    return (
      // biome-ignore lint/suspicious/noArrayIndexKey: two things may happen at one time
      <g key={`${flag.hours}-${index}`} data-flag={flag.kind}>
        <title>{flag.text}</title>
        <line x1={at} x2={at} y1={FLAGS_H - 2} y2={BOTTOM} stroke={colour} strokeWidth={1.2} />
        {shown ? (
          <>
            <rect x={start} y={8} width={long} height={20} rx={3} fill={colour} />
            <text x={start + 6} y={22} fontSize={12} fontWeight={600} fill="var(--paper)">
              {FLAG_SHAPES[flag.kind]} {flag.short}
            </text>
          </>
        ) : (
          <circle cx={at} cy={FLAGS_H + 2} r={3.5} fill={colour} />
        )}
      </g>
    );
  });
}
