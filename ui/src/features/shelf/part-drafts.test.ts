import { beforeEach, expect, test } from "vitest";
import type { KeptPart, ShelfPart } from "../../api/types";
import { dropPart, findPart, keepPart } from "./part-drafts";

const part = { kind: "battery", name: "Typed" } as ShelfPart;
const kept = { id: "one", revision: 3, part: { ...part, name: "Kept" } } as KeptPart;

beforeEach(() => sessionStorage.clear());

test("what was typed of a part comes back, of that part and that kind alone", () => {
  keepPart(kept, part);
  expect(findPart(kept, "battery")).toEqual(part);
  expect(findPart(null, "battery")).toBeNull();
  keepPart(null, { ...part, name: "New" });
  expect(findPart(null, "battery")?.name).toBe("New");
  expect(findPart(null, "inverter")).toBeNull();
  dropPart(kept, "battery");
  expect(findPart(kept, "battery")).toBeNull();
});

test("a part that was changed elsewhere since is not overwritten by what was typed before", () => {
  keepPart(kept, part);
  expect(findPart({ ...kept, revision: 4 }, "battery")).toBeNull();
  expect(findPart(kept, "battery")).toBeNull();
});
