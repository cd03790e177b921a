import { beforeEach, describe, expect, test } from "vitest";
import { useNotice } from "../lib/notice";
import { design, kept } from "../testing/server";
import { removeLoads } from "./edits";
import { stampNow, useDesign } from "./store";

const state = () => useDesign.getState();
const names = () => state().document?.loads.map((load) => load.name);
const fanTo = (name: string, at = 1) => [
  { op: "test" as const, path: `/loads/${at}/id`, value: "fan" },
  { op: "replace" as const, path: `/loads/${at}/name`, value: name },
];

beforeEach(() => state().openStored(kept.put("a", design("A"))));

describe("edits from the server", () => {
  test("are made on the version they were worked out for", () => {
    expect(state().apply("rename", fanTo("Roof fan"), stampNow())).toBe(true);
    expect(names()).toEqual(["lamp", "Roof fan"]);
  });

  test("of an earlier version are refused, with a word", () => {
    const before = stampNow();
    state().change("delete", (d) => removeLoads(d, ["lamp"]));
    expect(state().apply("rename", fanTo("Roof fan"), before)).toBe(false);
    expect(names()).toEqual(["fan"]);
    expect(useNotice.getState().notice?.text).toMatch(/nothing was applied/);
  });

  test("that point at another thing than they mean change nothing", () => {
    expect(state().apply("rename", fanTo("Roof fan", 0), stampNow())).toBe(false);
    expect(names()).toEqual(["lamp", "fan"]);
  });

  test("of another design are refused", () => {
    const ofA = stampNow();
    state().openStored(kept.put("b", design("B")));
    expect(state().apply("rename", fanTo("Roof fan"), ofA)).toBe(false);
  });
});

describe("undo", () => {
  test("a notice's undo goes when something else is changed", () => {
    state().change("delete", (d) => removeLoads(d, ["lamp"]));
    useNotice.getState().notify("Deleted a load.", { label: "Undo", act: state().undo });
    state().change("rename", (d) => ({ ...d, name: "Other" }));
    expect(useNotice.getState().notice).toBeNull();
  });

  test("goes back to what was saved after changes of the last visit came back", () => {
    const stored = kept.put("a", design("A"));
    const draft = { design: "a", base: 1, document: design("Draft"), at: 0 };
    state().open({ id: "a", stored, draft, steps: null });
    expect(state().saving.status).toBe("waiting");
    state().undo();
    expect(state().document?.name).toBe("A");
  });

  test("steps that lead to another revision are not taken for its history", () => {
    const steps = {
      base: 7,
      past: [{ document: design("X"), what: "", at: 0, key: "" }],
      future: [],
    };
    state().open({ id: "a", stored: kept.put("a", design("A"), 8), draft: null, steps });
    expect(state().past).toEqual([]);
  });
});
