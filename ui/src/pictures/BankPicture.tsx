import type { Bank, Wiring } from "../api/types";
import { quantity } from "../lib/format";

const CELL_W = 62;
const CELL_H = 40;
const GAP_X = 18;
const GAP_Y = 14;
const MAX_SHOWN = 4;

interface BankPictureProps {
  bank: Bank;
  wiring: Wiring;
  x?: number;
  y?: number;
}

/** Size of the picture: strings lie as rows, the batteries of a string side by side. */
export function bankPictureSize(series: number, parallel: number) {
  const columns = Math.min(series, MAX_SHOWN);
  const rows = Math.min(parallel, MAX_SHOWN);
  return {
    width: 40 + columns * (CELL_W + GAP_X) - GAP_X,
    height: rows * (CELL_H + GAP_Y) - GAP_Y + (parallel > MAX_SHOWN || series > MAX_SHOWN ? 18 : 0),
  };
}

/** Height at which a string's leads lie, counted from the first shown. */
export const takeOffY = (row: number) => row * (CELL_H + GAP_Y) + CELL_H / 2;

/** Batteries in series and parallel, joined, with the two take-off points marked. */
export function BankPicture({ bank, wiring, x = 0, y = 0 }: BankPictureProps) {
  const columns = Math.min(wiring.series, MAX_SHOWN);
  const rows = Math.min(wiring.parallel, MAX_SHOWN);
  const { width } = bankPictureSize(wiring.series, wiring.parallel);
  const rowY = takeOffY;
  const left = 8;
  const right = width - 8;
  const words = `${wiring.series} in series, ${wiring.parallel} in parallel. ${wiring.text}`;
  return (
    <g
      transform={`translate(${x} ${y})`}
      role="img"
      aria-label={words}
      data-bank={`${wiring.series}S${wiring.parallel}P`}
    >
      <line
        x1={left}
        x2={left}
        y1={rowY(0)}
        y2={rowY(rows - 1)}
        stroke="var(--plus)"
        strokeWidth={2.5}
      />
      <line
        x1={right}
        x2={right}
        y1={rowY(0)}
        y2={rowY(rows - 1)}
        stroke="var(--ink)"
        strokeWidth={2.5}
      />
      {Array.from({ length: rows }, (_, row) => {
        const at = rowY(row);
        return (
          // biome-ignore lint/suspicious/noArrayIndexKey: a string has no other name than its place
          <g key={row}>
            <line x1={left} x2={20} y1={at} y2={at} stroke="var(--plus)" strokeWidth={2} />
            <line x1={width - 20} x2={right} y1={at} y2={at} stroke="var(--ink)" strokeWidth={2} />
            {Array.from({ length: columns }, (_, column) => {
              const cellX = 20 + column * (CELL_W + GAP_X);
              return (
                // biome-ignore lint/suspicious/noArrayIndexKey: nor has a battery
                <g key={column}>
                  {column > 0 ? (
                    <line
                      x1={cellX - GAP_X}
                      x2={cellX}
                      y1={at}
                      y2={at}
                      stroke="var(--edge)"
                      strokeWidth={2}
                    />
                  ) : null}
                  <rect
                    x={cellX}
                    y={at - CELL_H / 2}
                    width={CELL_W}
                    height={CELL_H}
                    rx={4}
                    fill="var(--card)"
                    stroke="var(--ink)"
                    strokeWidth={1.4}
                  />
                  <text x={cellX + 5} y={at - 8} fontSize={12} fontWeight={700} fill="var(--plus)">
                    +
                  </text>
                  <text
                    x={cellX + CELL_W - 10}
                    y={at - 8}
                    fontSize={12}
                    fontWeight={700}
                    fill="var(--ink)"
                  >
                    −
                  </text>
                  <text
                    x={cellX + CELL_W / 2}
                    y={at + 11}
                    fontSize={12}
                    textAnchor="middle"
                    fill="var(--ink)"
                  >
                    {quantity(bank.battery.ah, "Ah")}
                  </text>
                </g>
              );
            })}
          </g>
        );
      })}
      <circle
        cx={left}
        cy={rowY(Math.min(wiring.positive_string, rows - 1))}
        r={4.5}
        fill="var(--plus)"
        data-take-off="positive"
      />
      <circle
        cx={right}
        cy={rowY(Math.min(wiring.negative_string, rows - 1))}
        r={4.5}
        fill="var(--ink)"
        data-take-off="negative"
      />
      {wiring.parallel > MAX_SHOWN || wiring.series > MAX_SHOWN ? (
        <text
          x={width / 2}
          y={rowY(rows - 1) + CELL_H / 2 + 14}
          fontSize={12}
          textAnchor="middle"
          fill="var(--soft)"
        >
          … {wiring.series} × {wiring.parallel} in all
        </text>
      ) : null}
    </g>
  );
}
