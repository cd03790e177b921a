import { describe, expect, test } from "vitest";
import type { Design, KeptPart } from "../../api/types";
import { copyAt, differing, figuresOf, describe as inWords, labelInto, take } from "./parts";

const outlet = (id: string, kind: "ac" | "dc", volts: number) => ({ id, kind, name: id, volts });
const input = (id: string, modes: string[]) => ({
  id,
  supply: "dc",
  modes: modes.map((name) => ({ name, amps: 8 })),
});

const design = {
  stores: [
    { id: "bank", kind: "bank", name: "Bank", battery: { name: "Old", volts: 12.8, ah: 100 } },
    {
      id: "box",
      kind: "station",
      name: "Box",
      outlets: [outlet("sockets", "ac", 230), outlet("port", "dc", 12)],
      inputs: [input("in", ["Car", "Solar"])],
    },
  ],
  stages: [
    {
      id: "inv",
      kind: "inverter",
      name: "Inverter",
      rail: "bank",
      cable_mohm: 4,
      continuous_w: 300,
    },
    { id: "feed", kind: "feed", name: "Feed", rail: "bank" },
  ],
  links: [{ id: "lead", name: "Lead", rail: "bank", to: "box", input: "in", mode: "Car" }],
  loads: [{ id: "lamp", name: "Lamp", rail: "port" }],
} as unknown as Design;

/** The same, filled by the sun and through a charger. */
const filled = {
  ...design,
  stores: [
    ...design.stores,
    { id: "roof", kind: "sun", name: "Roof", series: 2, panel: { watts: 50 } },
  ],
  links: [
    ...design.links,
    { id: "filler", name: "Filler", rail: "roof", to: "bank", charger: { amps: 10 } },
  ],
} as unknown as Design;

const kept = (kind: string, figures: object) =>
  ({
    id: "part-1",
    revision: 3,
    spread_from: "label",
    part: { kind, name: "New", figures },
  }) as unknown as KeptPart;

test("a label's figures go in; what it does not say, and what is connected, stays", () => {
  const changed = labelInto(design, "inv", { continuous_w: 2000 });
  expect(changed.stages[0]).toMatchObject({
    name: "Inverter",
    continuous_w: 2000,
    cable_mohm: 4,
    provenance: "label",
    shelf: null,
  });
  const box = labelInto(design, "box", {
    label_wh: 1024,
    outlets: [outlet("ac", "ac", 120), outlet("usb", "dc", 5)],
  }).stores[1];
  expect(box).toMatchObject({ label_wh: 1024, outlets: [{ id: "sockets" }, { id: "port" }] });
  expect(labelInto(design, "ghost", { ah: 1 })).toBe(design);
});

test("a part's figures go in, and what belongs to the place stays", () => {
  const changed = take(design, "inv", kept("inverter", { continuous_w: 1500 }));
  expect(changed.stages[0]).toMatchObject({
    id: "inv",
    name: "New",
    rail: "bank",
    cable_mohm: 4,
    continuous_w: 1500,
    shelf: { part: "part-1", revision: 3 },
  });
  expect(changed.stages[1]).toBe(design.stages[1]);
});

test("a charger and a panel go into their places, which keep their names", () => {
  const charged = take(filled, "filler", kept("charger", { kind: "MPPT controller", amps: 20 }));
  expect(charged.links[1]).toMatchObject({
    name: "Filler",
    charger: { kind: "MPPT controller", amps: 20, shelf: { part: "part-1", revision: 3 } },
  });
  expect(copyAt(charged, "filler")?.figures).toEqual({ kind: "MPPT controller", amps: 20 });
  const sunny = take(filled, "roof", kept("panel", { watts: 100 }));
  expect(sunny.stores[2]).toMatchObject({ name: "Roof", series: 2, panel: { watts: 100 } });
  expect(copyAt(sunny, "roof")?.figures).toEqual({ watts: 100 });
});

test("a part of another kind changes nothing", () => {
  expect(take(design, "inv", kept("battery", { ah: 5 })).stages).toEqual(design.stages);
});

describe("another station in the place of one", () => {
  const figures = (modes: string[]) => ({
    outlets: [outlet("a", "dc", 12), outlet("b", "ac", 230), outlet("c", "dc", 5)],
    inputs: [input("x", modes)],
  });

  test("keeps the ids of like outlets, so that loads stay connected", () => {
    const [, box] = take(design, "box", kept("station", figures(["Car"]))).stores;
    const outlets = (box as { outlets: { id: string; volts: number }[] }).outlets;
    expect(outlets.map((one) => [one.id, one.volts])).toEqual([
      ["port", 12],
      ["sockets", 230],
      ["box-c", 5],
    ]);
  });

  test.each([
    [["Car", "Fast"], "Car"],
    [["Fast"], null],
  ])("with modes %s the lead into it is in mode %s", (modes, mode) => {
    const { links } = take(design, "box", kept("station", figures(modes)));
    expect(links.map((link) => [link.input, link.mode])).toEqual([["in", mode]]);
  });

  test("without an input the lead goes", () => {
    const none = { ...figures(["Car"]), inputs: [] };
    expect(take(design, "box", kept("station", none)).links).toEqual([]);
  });
});

test.each([
  ["bank", "battery"],
  ["box", "station"],
  ["inv", "inverter"],
  ["roof", "panel"],
  ["filler", "charger"],
  ["lead", undefined],
  ["feed", undefined],
  ["nobody", undefined],
])("what the design holds of a part at %s is a %s", (subject, kind) => {
  expect(copyAt(filled, subject)?.kind).toBe(kind);
});

test("a copy onto the shelf leaves its place behind", () => {
  const inverter = design.stages[0] as Parameters<typeof figuresOf>[0];
  expect(figuresOf(inverter)).toEqual({ continuous_w: 300 });
});

test("figures that differ are named; ids and what is unsaid do not count", () => {
  const one = { ah: 100, bms_a: null, outlets: [outlet("a", "dc", 12)] };
  const other = { ah: 120, outlets: [outlet("b", "dc", 12)] };
  expect(differing(one as never, other as never)).toEqual(["ah", "outlets"]);
  expect(
    differing(one as never, { ...one, outlets: [{ ...outlet("a", "dc", 12), id: "z" }] } as never),
  ).toEqual([]);
});

test("a part says its label in one line", () => {
  const battery = { volts: 12.8, ah: 100, chemistry: "lfp", bms_a: 100 };
  expect(inWords({ kind: "battery", name: "B", figures: battery } as never)).toBe(
    "12.8 V · 100 Ah · LFP · gives 100 A",
  );
});

test("what a part is connected to here is not of the part", () => {
  const joined = {
    ...filled,
    stages: [{ ...filled.stages[0], transfer: "mains", changeover: "break" }],
    links: filled.links.map((link) =>
      link.charger ? { ...link, charger: { ...link.charger, shares_with: "other" } } : link,
    ),
  } as unknown as Design;
  expect(copyAt(joined, "inv")?.figures).toEqual({ continuous_w: 300 });
  expect(copyAt(joined, "filler")?.figures).toEqual({ amps: 10 });
  const station = { ...filled.stores[1], changeover: "none" } as never;
  expect(figuresOf(station)).toMatchObject({ changeover: "none" });
  const changed = take(joined, "filler", kept("charger", { amps: 30 }));
  const charger = changed.links.find((link) => link.id === "filler")?.charger;
  expect(charger).toMatchObject({ amps: 30, shares_with: "other" });
});
