import fc from "fast-check";
import { describe, expect, test } from "vitest";
import type { Design, Load } from "../api/types";
import { design } from "../testing/server";
import { addLoad, dcRails, duplicateLoad, moveLoad, removeLoads, withLoad } from "./edits";

const ids = (d: Design) => d.loads.map((load) => load.id);
const three = design("Three", ["lamp", "fan", "radio"]);
const load = (id: string) => ({ id, name: id, rail: "bank", count: 1 }) as unknown as Load;

describe("changes of loads", () => {
  test.each([
    ["up", "radio", -1, ["lamp", "radio", "fan"]],
    ["down", "lamp", 1, ["fan", "lamp", "radio"]],
    ["not over the end", "radio", 1, ["lamp", "fan", "radio"]],
    ["not over the beginning", "lamp", -1, ["lamp", "fan", "radio"]],
    ["nothing that is not there", "kettle", 1, ["lamp", "fan", "radio"]],
  ])("move %s", (_, id, by, order) => {
    expect(ids(moveLoad(three, id, by))).toEqual(order);
  });

  test("a copy stands behind its load under a free id", () => {
    const twice = duplicateLoad(duplicateLoad(three, "lamp"), "lamp");
    expect(ids(twice)).toEqual(["lamp", "lamp-3", "lamp-2", "fan", "radio"]);
    expect(twice.loads[1]?.name).toBe("lamp (copy)");
  });

  test("a change is of the load with the id, and of it alone", () => {
    const changed = withLoad(removeLoads(three, ["lamp"]), "radio", { count: 4 });
    expect(changed.loads.map((one) => one.count)).toEqual([1, 4]);
    expect(three.loads.map((one) => one.count)).toEqual([1, 1, 1]);
  });

  test("no two things ever have one id, whatever is added and doubled", () => {
    const acts = fc.array(
      fc.record({
        add: fc.boolean(),
        at: fc.nat({ max: 20 }),
        id: fc.constantFrom("lamp", "bank", "x-2"),
      }),
      { maxLength: 25 },
    );
    fc.assert(
      fc.property(acts, (done) => {
        let now = three;
        for (const { add, at, id } of done) {
          const one = now.loads[at % now.loads.length];
          now = add || !one ? addLoad(now, load(id)) : duplicateLoad(now, one.id);
        }
        const all = [...ids(now), ...now.stores.map((store) => store.id)];
        expect(new Set(all).size).toBe(all.length);
      }),
      { seed: 5 },
    );
  });
});

test("a stage is never fed from itself, nor from what it feeds", () => {
  const stages = [
    { id: "a", kind: "converter", name: "A", rail: "bank" },
    { id: "b", kind: "converter", name: "B", rail: "a" },
    { id: "c", kind: "feed", name: "C", rail: "b" },
    { id: "d", kind: "inverter", name: "D", rail: "bank" },
  ];
  const chained = { ...three, stages } as unknown as Design;
  expect(dcRails(chained, "a").map(([id]) => id)).toEqual(["bank"]);
  expect(dcRails(chained, "c").map(([id]) => id)).toEqual(["bank", "a", "b"]);
  // An inverter's rail is no DC rail.
  expect(dcRails(chained).map(([id]) => id)).toEqual(["bank", "a", "b", "c"]);
  // Nor does anything that a store feeds feed that store.
  expect(dcRails(chained, "bank")).toEqual([]);
});
