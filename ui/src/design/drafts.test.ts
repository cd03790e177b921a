import { beforeEach, expect, test, vi } from "vitest";
import { design } from "../testing/server";

/** Another window: the same browser, a module of its own. */
async function window_(name: string) {
  sessionStorage.setItem("gravel-jar-window", name);
  vi.resetModules();
  return import("./drafts");
}

const draft = (name: string, at: number) => ({ design: "d", base: 1, document: design(name), at });

let held: Set<string>;

beforeEach(async () => {
  held = new Set();
  const locks = {
    request: async (name: string, _: object, hold: () => Promise<void>) => {
      held.add(name);
      void hold();
    },
    query: async () => ({ held: [...held].map((name) => ({ name })) }),
  };
  vi.stubGlobal("navigator", { locks });
  const { findDraft, dropDraft } = await window_("cleaner");
  while (await findDraft("d")) await dropDraft("d");
  held.clear();
});

const closed = (name: string) => held.delete(`gravel-jar-window ${name}`);

test("a window finds its own draft after a reload", async () => {
  await (await window_("one")).keepDraft(draft("Mine", 1));
  closed("one");
  expect((await (await window_("one")).findDraft("d"))?.document.name).toBe("Mine");
});

test("the draft of a window that is open stays its own", async () => {
  await (await window_("one")).keepDraft(draft("Theirs", 1));
  expect(await (await window_("two")).findDraft("d")).toBeNull();
});

test("of windows that were closed the newest draft is taken over, once", async () => {
  await (await window_("one")).keepDraft(draft("Older", 1));
  await (await window_("two")).keepDraft(draft("Newer", 2));
  closed("one");
  closed("two");
  const three = await window_("three");
  expect((await three.findDraft("d"))?.document.name).toBe("Newer");
  await three.dropDraft("d");
  expect((await three.findDraft("d"))?.document.name).toBe("Older");
});

test("a draft is of its design alone", async () => {
  const one = await window_("one");
  await one.keepDraft(draft("Mine", 1));
  expect(await one.findDraft("other")).toBeNull();
});

test("steps of undo are kept up to a bound, the newest", async () => {
  const { keepSteps, findSteps } = await window_("one");
  const step = (n: number) => ({ document: design(`N${n}`), what: "", at: n, key: "" });
  await keepSteps("d", {
    base: 4,
    past: Array.from({ length: 90 }, (_, n) => step(n)),
    future: [],
  });
  const found = await findSteps("d");
  expect([found?.base, found?.past.length, found?.past.at(-1)?.at]).toEqual([4, 60, 89]);
});
