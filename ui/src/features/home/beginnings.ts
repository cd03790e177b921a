import type { Have } from "../../api/types";

type Kind = Have["have"];
type Of<K extends Kind> = Extract<Have, { have: K }>;

/** What somebody may have as a design begins, and the figures a label of it would have. */
export interface Beginning {
  kind: Kind | "example";
  title: string;
  hint: string;
}

export const BEGINNINGS: readonly Beginning[] = [
  { kind: "nothing", title: "Nothing yet: size it for me", hint: "from what has to run" },
  { kind: "battery", title: "A battery", hint: "volts, Ah, chemistry" },
  { kind: "station", title: "A power station", hint: "Wh, watts of its sockets" },
  { kind: "grown", title: "A station, and a battery to grow it", hint: "both labels" },
  { kind: "packs", title: "Tool or bike packs", hint: "volts, Ah, how many" },
  { kind: "vehicle", title: "A vehicle’s 12 V", hint: "a socket, an engine" },
  { kind: "router", title: "A router that must stay on", hint: "a backup box" },
  { kind: "example", title: "Open an example", hint: "made up, to look around" },
];

const BATTERY = { chemistry: "lfp", volts: 12.8, ah: 100, bms_a: 100 } as Of<"battery">["battery"];
const STATION = { wh: 512, ac_w: 600, surge_w: 1200, dc_a: 10, chemistry: "lfp" } as const;

/** A blank label of each kind. */
export const BLANKS: { [K in Kind]: Of<K> } = {
  nothing: { have: "nothing", goal_h: 24 },
  battery: { have: "battery", battery: BATTERY, series: 1, parallel: 1 },
  station: { have: "station", ...STATION },
  grown: {
    have: "grown",
    ...STATION,
    least_v: 11,
    most_v: 28,
    input_a: 8,
    input_w: 200,
    battery: BATTERY,
  },
  packs: { have: "packs", volts: 18, ah: 5, series: 1, parallel: 1 },
  vehicle: { have: "vehicle", volts: 12, amps: 10 },
  router: { have: "router", wh: 30, volts: 12, amps: 2, router_w: 8, outage_h: 4 },
};
