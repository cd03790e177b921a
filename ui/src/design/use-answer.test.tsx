import { QueryClient, QueryClientProvider } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { afterAll, beforeAll, beforeEach, expect, test } from "vitest";
import { design, kept, server } from "../testing/server";
import { useDesign } from "./store";
import { useEvaluation } from "./use-evaluation";

beforeAll(() => server.listen({ onUnhandledRequest: "error" }));
afterAll(() => server.close());

const state = () => useDesign.getState();
const open = (id: string, name: string) => state().openStored(kept.put(id, design(name)));
const rename = (name: string) => act(() => state().change("rename", (d) => ({ ...d, name })));

function evaluated() {
  const client = new QueryClient();
  const wrapper = ({ children }: { children: ReactNode }) => (
    <QueryClientProvider client={client}>{children}</QueryClientProvider>
  );
  const { result } = renderHook(() => useEvaluation(), { wrapper });
  return {
    of: () => (result.current.evaluation as unknown as { of: string } | null)?.of,
    now: () => result.current,
  };
}

beforeEach(() => {
  kept.faults.length = 0;
  kept.gate = Promise.resolve();
  open("a", "A");
});

test("an evaluation stays until the next is there, and says that it is not new", async () => {
  const { of, now } = evaluated();
  await waitFor(() => expect(now().standing.status).toBe("fresh"));
  const release = kept.hold();
  rename("A2");
  expect([of(), now().standing.status]).toEqual(["A", "updating"]);
  expect(now().stamp?.version).toBe(state().version - 1);
  release();
  await waitFor(() => expect([of(), now().standing.status]).toEqual(["A2", "fresh"]));
});

test.each([
  ["away", "The server does not answer. Is bin/start still running?"],
  ["broken", "internal"],
] as const)(
  "a server that is %s leaves figures that are out of date; they come back by themselves",
  async (fault, why) => {
    const { of, now } = evaluated();
    await waitFor(() => expect(now().standing.status).toBe("fresh"));
    kept.faults.push(fault, fault);
    rename("A3");
    await waitFor(() => expect(now().standing).toEqual({ status: "stale", why }));
    expect(of()).toBe("A");
    await waitFor(() => expect([of(), now().standing.status]).toEqual(["A3", "fresh"]));
  },
);

test("a refused value leaves the figures before it, out of date until it is right", async () => {
  const { of, now } = evaluated();
  await waitFor(() => expect(now().standing.status).toBe("fresh"));
  kept.faults.push("refuses");
  rename("A4");
  await waitFor(() => expect(now().standing.status).toBe("stale"));
  expect(of()).toBe("A");
  rename("A5");
  await waitFor(() => expect([of(), now().standing.status]).toEqual(["A5", "fresh"]));
});

test("however fast a person types, one evaluation is under way and one waits", async () => {
  const { of, now } = evaluated();
  await waitFor(() => expect(now().standing.status).toBe("fresh"));
  const release = kept.hold();
  const before = kept.evaluated.length;
  for (let n = 1; n <= 20; n += 1) {
    rename(`N${n}`);
    await new Promise((resolve) => setTimeout(resolve, 5));
  }
  release();
  await waitFor(() => expect([of(), now().standing.status]).toEqual(["N20", "fresh"]));
  const quick = kept.evaluated.slice(before).filter((one) => one.quick);
  expect(quick.map((one) => one.name)).toEqual(["N1", "N20"]);
});

test("a whole evaluation is given up with the next edit, a quick one never", async () => {
  const { of, now } = evaluated();
  await waitFor(() => expect(now().standing.status).toBe("fresh"));
  const before = kept.givenUp.length;
  let release = () => {};
  kept.wholeGate = new Promise((resolve) => {
    release = resolve;
  });
  rename("W1");
  await waitFor(() => expect(kept.evaluated.at(-1)).toEqual({ name: "W1", quick: false }));
  rename("W2");
  await waitFor(() => expect(kept.givenUp.slice(before)).toEqual(["W1"]));
  release();
  await waitFor(() => expect([of(), now().standing.status]).toEqual(["W2", "fresh"]));
  expect(kept.givenUp.slice(before)).toEqual(["W1"]);
});

test("nothing of one design is shown under the name of another", async () => {
  const { of, now } = evaluated();
  await waitFor(() => expect(now().standing.status).toBe("fresh"));
  const release = kept.hold();
  act(() => open("b", "B"));
  expect(of()).toBeUndefined();
  release();
  await waitFor(() => expect(of()).toBe("B"));
});
