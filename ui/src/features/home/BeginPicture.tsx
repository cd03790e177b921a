import type { Beginning } from "./beginnings";

const LINES = {
  fill: "none",
  stroke: "currentColor",
  strokeWidth: 2,
  strokeLinejoin: "round",
  strokeLinecap: "round",
} as const;

/** A small picture of what somebody may have. */
export function BeginPicture({ kind }: { kind: Beginning["kind"] }) {
  return (
    <svg viewBox="0 0 96 48" className="h-12 w-24 text-ink" aria-hidden="true">
      <g {...LINES}>{PICTURES[kind]}</g>
    </svg>
  );
}

const BOX = <path d="M6 16h34v26H6zM12 16v-5h8v5M26 16v-5h8v5" />;
const STATION = (
  <>
    <path d="M10 8h22v5M10 8v5" />
    <rect x={4} y={13} width={36} height={29} rx={4} />
    <path d="M10 20h12v8H10z" fill="var(--river-wash)" />
    <circle cx={29} cy={24} r={3} />
    <path d="M12 36h20" />
  </>
);

const PICTURES: Record<Beginning["kind"], React.ReactNode> = {
  nothing: (
    <>
      <path d="M10 8h28M13 8v5c-4 3-6 6-6 11v14c0 3 2 5 5 5h24c3 0 5-2 5-5V24c0-5-2-8-6-11V8" />
      <path d="M19 24c0-6 10-6 10 0c0 4-5 4-5 8M24 37v.5" stroke="var(--river)" />
    </>
  ),
  battery: (
    <>
      {BOX}
      <path d="M14 28h6M17 25v6M28 28h6" />
    </>
  ),
  station: STATION,
  grown: (
    <>
      {STATION}
      <path d="M40 30h12" stroke="var(--accent, var(--fix))" />
      <path d="M52 18h34v24H52zM58 18v-5h7v5M73 18v-5h7v5" />
    </>
  ),
  packs: (
    <>
      <path d="M6 22h26v20H6zM12 22v-8h14v8" />
      <path d="M46 22h26v20H46zM52 22v-8h14v8" />
      <path d="M32 32h14" stroke="var(--fix)" />
    </>
  ),
  vehicle: (
    <>
      <path d="M4 36V14h38l12 10l16 3v9H4z" />
      <circle cx={20} cy={38} r={5} fill="var(--card)" />
      <circle cx={56} cy={38} r={5} fill="var(--card)" />
      <path d="M42 14v10h12" />
    </>
  ),
  router: (
    <>
      <rect x={4} y={30} width={44} height={12} rx={3} />
      <path d="M12 30V12M40 30V12M12 36h.5M18 36h.5" />
      <path d="M70 14l-8 12h8l-6 12" stroke="var(--watch)" />
    </>
  ),
  example: (
    <>
      <path d="M8 10h24l8 8v24H8zM32 10v8h8" />
      <path d="M14 26h18M14 33h18" />
    </>
  ),
};
