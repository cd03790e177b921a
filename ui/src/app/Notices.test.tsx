import { act, render, screen } from "@testing-library/react";
import { BrowserRouter, type NavigateFunction, useNavigate } from "react-router";
import { expect, test, vi } from "vitest";
import { useNotice } from "../lib/notice";
import { Notices } from "./Notices";

let go: NavigateFunction;

function Addresses() {
  go = useNavigate();
  return null;
}

test.each([
  ["/d/van/plan", "/d/van/run", true],
  ["/d/van/plan", "/d/hut/plan", false],
  ["/d/van/plan", "/", false],
  ["/", "/d/hut/plan", true],
])("a notice at %s, then %s: still there, %s", async (at, then, stays) => {
  window.history.pushState(null, "", at);
  render(
    <BrowserRouter>
      <Addresses />
      <Notices />
    </BrowserRouter>,
  );
  act(() => useNotice.getState().notify("Deleted Lamp.", { label: "Undo", act: vi.fn() }));
  expect(await screen.findByText("Deleted Lamp.")).toBeTruthy();
  act(() => void go(then));
  expect(screen.queryByText("Deleted Lamp.") !== null).toBe(stays);
  act(() => useNotice.getState().close());
});
