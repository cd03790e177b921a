import { fireEvent, render } from "@testing-library/react";
import { beforeEach, expect, test, vi } from "vitest";
import { useShortcuts } from "./keys";
import { useSettings } from "./settings";

const undo = vi.fn();
const remove = vi.fn();
const add = vi.fn();

function Page({ covered = false }: { covered?: boolean }) {
  useShortcuts({ undo, remove, add });
  return (
    <>
      <input aria-label="text" />
      <input type="checkbox" aria-label="tick" />
      <select aria-label="choice" />
      {covered ? <div role="dialog">over it</div> : null}
    </>
  );
}

beforeEach(() => {
  for (const one of [undo, remove, add]) one.mockClear();
  useSettings.setState({ letterKeys: true });
});

const Z = { key: "z", ctrlKey: true };
const DELETE = { key: "Delete" };
const A = { key: "a" };

test.each([
  ["in a text field Ctrl+Z takes back the typing", "input", Z, undo, 0],
  ["on a tick it undoes the design", "[type=checkbox]", Z, undo, 1],
  ["on a choice it undoes the design", "select", Z, undo, 1],
  ["a letter in a choice chooses", "select", A, add, 0],
  ["Delete in a text field deletes a letter", "input", DELETE, remove, 0],
  ["Delete elsewhere removes what is selected", "[type=checkbox]", DELETE, remove, 1],
])("%s", (_, at, event, handler, times) => {
  const { container } = render(<Page />);
  fireEvent.keyDown(container.querySelector(at) as Element, event);
  expect(handler).toHaveBeenCalledTimes(times);
});

test("behind a dialog no key does anything", () => {
  const { container } = render(<Page covered />);
  for (const event of [Z, DELETE, A]) fireEvent.keyDown(container, event);
  expect([undo, remove, add].map((one) => one.mock.calls.length)).toEqual([0, 0, 0]);
});

test("keys without Ctrl can be switched off", () => {
  useSettings.setState({ letterKeys: false });
  const { container } = render(<Page />);
  for (const event of [Z, DELETE, A]) fireEvent.keyDown(container, event);
  expect([undo, remove, add].map((one) => one.mock.calls.length)).toEqual([1, 0, 0]);
});
