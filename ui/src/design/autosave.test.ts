import { act, renderHook, waitFor } from "@testing-library/react";
import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { design, kept, server } from "../testing/server";
import { savesDone, useAutosave } from "./autosave";
import { dropDraft, findDraft, findSteps } from "./drafts";
import { useDesign } from "./store";

beforeAll(() => server.listen({ onUnhandledRequest: "error" }));
afterAll(() => server.close());

const state = () => useDesign.getState();
const rename = (name: string) => act(() => state().change("rename", (d) => ({ ...d, name })));
const status = () => state().saving.status;
const isSaved = () => status() === "saved" && state().version === state().savedVersion;

beforeEach(async () => {
  kept.faults.length = 0;
  kept.saves.length = 0;
  kept.gate = Promise.resolve();
  await dropDraft("a");
  state().openStored(kept.put("a", design("A")));
});

test.each(["away", "broken"] as const)(
  "a server that is %s costs nothing: it is tried again until it has the change",
  async (fault) => {
    kept.faults.push(fault);
    renderHook(() => useAutosave());
    rename("B");
    await waitFor(() => expect(status()).toBe("failed"));
    expect((await findDraft("a"))?.document.name).toBe("B");
    await waitFor(() => expect(isSaved()).toBe(true));
    expect(kept.designs.get("a")?.document.name).toBe("B");
    await waitFor(async () => expect(await findDraft("a")).toBeNull());
  },
);

test("a change made while a slow save is on its way, then left, reaches the server", async () => {
  const release = kept.hold();
  const { unmount } = renderHook(() => useAutosave());
  rename("B");
  await waitFor(() => expect(status()).toBe("running"));
  rename("C");
  unmount();
  release();
  await savesDone("a");
  expect(kept.saves.map((one) => [one.base, one.document.name])).toEqual([
    [1, "B"],
    [2, "C"],
  ]);
  await waitFor(async () => expect(await findDraft("a")).toBeNull());
  const steps = await findSteps("a");
  expect([steps?.base, steps?.past.map((one) => one.document.name)]).toEqual([3, ["A", "B"]]);
});

test("a refused value is kept in the browser when the design is left", async () => {
  kept.faults.push("refuses", "refuses");
  const { unmount } = renderHook(() => useAutosave());
  rename("B");
  await waitFor(() => expect(status()).toBe("invalid"));
  unmount();
  await savesDone("a");
  expect(kept.designs.get("a")?.document.name).toBe("A");
  expect((await findDraft("a"))?.document.name).toBe("B");
});

test.each([
  ["saved elsewhere", () => kept.put("a", design("Theirs"), 2), "conflict"],
  ["deleted elsewhere", () => kept.designs.delete("a"), "gone"],
])("a design that was %s asks, and neither side is lost", async (_, elsewhere, becomes) => {
  renderHook(() => useAutosave());
  elsewhere();
  rename("Mine");
  await waitFor(() => expect(status()).toBe(becomes));
  expect(state().document?.name).toBe("Mine");
  expect((await findDraft("a"))?.document.name).toBe("Mine");
  expect(kept.designs.get("a")?.document.name).not.toBe("Mine");
});

test("a draft made from an older revision comes back as a conflict", () => {
  const stored = kept.put("a", design("Theirs"), 5);
  const draft = { design: "a", base: 4, document: design("Mine"), at: 0 };
  state().open({ id: "a", stored, draft, steps: null });
  expect(status()).toBe("conflict");
});
