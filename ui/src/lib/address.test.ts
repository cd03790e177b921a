import { beforeEach, expect, test } from "vitest";
import { readAddress, writeAddress } from "./address";

const settled = () => new Promise((resolve) => setTimeout(resolve, 260));

beforeEach(() => window.history.replaceState({ key: "kept" }, "", "/d/1/plan?panel=bank#inverter"));

test("what is written can be read, and leaves the rest of the address and the router's state", async () => {
  writeAddress({ selected: "inv", panel: "" });
  writeAddress({ cursor: "5.5" });
  await settled();
  expect(window.location.href).toMatch(/\/d\/1\/plan\?selected=inv&cursor=5.5#inverter$/);
  expect(readAddress("selected")).toBe("inv");
  expect(readAddress("panel")).toBeNull();
  expect(window.history.state).toEqual({ key: "kept" });
});

test("an address that was left meanwhile is not written over", async () => {
  writeAddress({ selected: "inv" });
  window.history.replaceState(null, "", "/shelf");
  await settled();
  expect(window.location.search).toBe("");
});
