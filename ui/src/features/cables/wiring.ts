/** Changes to what carries the current at a joint. Pure. */

import type { BankLeads, Cable, CableRow, Design, Fuse, Joined } from "../../api/types";

/** What is described at a run; nothing for a bank whose leads nobody has described. */
export function joinedAt(design: Design, row: CableRow): Joined | null {
  if (row.kind === "post") return leadsOf(design, row.subject);
  const things = [...design.stages, ...design.links, ...design.loads];
  return things.find((one) => one.id === row.subject) ?? null;
}

export function leadsOf(design: Design, bank: string): BankLeads | null {
  const store = design.stores.find((one) => one.id === bank);
  return store?.kind === "bank" ? (store.leads ?? null) : null;
}

const UNSAID: BankLeads = { take_off: "from both ends" };

export function withJoined(design: Design, row: CableRow, part: Partial<BankLeads>): Design {
  const changed = <T extends { id?: string }>(things: T[]): T[] =>
    things.map((one) => (one.id === row.subject ? { ...one, ...part } : one));
  switch (row.kind) {
    case "post":
      return {
        ...design,
        stores: design.stores.map((store) =>
          store.id === row.subject && store.kind === "bank"
            ? { ...store, leads: { ...(store.leads ?? UNSAID), ...part } }
            : store,
        ),
      };
    case "stage":
      return { ...design, stages: changed(design.stages) };
    case "link":
      return { ...design, links: changed(design.links) };
    default:
      return { ...design, loads: changed(design.loads) };
  }
}

/** A run with its cable changed; one that had none starts from the length it is counted with. */
export function withCable(design: Design, row: CableRow, part: Partial<Cable>): Design {
  const cable = joinedAt(design, row)?.cable ?? { length_m: row.length_m };
  const next = { ...cable, ...part };
  const leads = row.kind === "post" ? leadsOf(design, row.subject) : null;
  // Leads of one length again, where the longest would be shorter than the others.
  const longest = leads?.longest_m;
  const equal = longest != null && longest < next.length_m ? { longest_m: null } : {};
  return withJoined(design, row, { cable: next as Cable, ...equal });
}

/** A charging cable with the fuse at its battery's end changed, or without it. */
export function withEndFuse(design: Design, row: CableRow, part: Partial<Fuse> | null): Design {
  const links = design.links.map((one) => {
    if (one.id !== row.subject) return one;
    const proposed = row.proposed_end_fuse;
    const before = one.end_fuse ?? {
      amps: proposed?.amps ?? row.least_fuse_a,
      kind: proposed?.kind ?? null,
    };
    return { ...one, end_fuse: part === null ? null : { ...before, ...part } };
  });
  return { ...design, links };
}

/** A run with its fuse changed; one that had none starts from what is proposed. */
export function withFuse(design: Design, row: CableRow, part: Partial<Fuse>): Design {
  const proposed = row.proposed_fuse;
  const fuse = joinedAt(design, row)?.fuse ?? {
    amps: proposed?.amps ?? row.least_fuse_a,
    kind: proposed?.kind ?? null,
  };
  return withJoined(design, row, { fuse: { ...fuse, ...part } });
}

/** Codes of findings about wiring begin with these. */
const WIRING = ["cable.", "fuse.", "connector.", "bus_bar.", "shunt.", "disconnect."];
const OF_LEADS = ["bank.unequal_leads", "bank.one_sided", "bank.sized_by_batteries"];

export const isWiring = (code: string) =>
  WIRING.some((kind) => code.startsWith(kind)) || OF_LEADS.includes(code);
