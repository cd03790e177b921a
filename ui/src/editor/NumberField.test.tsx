import { fireEvent, render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { useState } from "react";
import { expect, test, vi } from "vitest";
import { NumberField } from "./NumberField";

type Extra = Partial<Parameters<typeof NumberField>[0]>;

/** A field over a value that it changes, and a button that changes it from elsewhere. */
function Held({ start, told, ...rest }: Extra & { start: number; told: (value: number) => void }) {
  const [value, setValue] = useState(start);
  const change = (next: number) => {
    told(next);
    setValue(next);
  };
  return (
    <>
      <NumberField {...rest} label="Volts" path="/v" value={value} onChange={change} />
      <button type="button" onClick={() => setValue(start)}>
        undo
      </button>
    </>
  );
}

function held(start: number, rest: Extra = {}) {
  const told = vi.fn();
  render(<Held start={start} told={told} {...rest} />);
  const field = screen.getByLabelText<HTMLInputElement>("Volts");
  return { field, told, user: userEvent.setup() };
}

test("what can be read in two ways is asked, and changes nothing until it is chosen", async () => {
  const { field, told, user } = held(12);
  await user.type(field, "1,500{Enter}", { initialSelectionStart: 0, initialSelectionEnd: 2 });
  expect(told).not.toHaveBeenCalled();
  await user.click(screen.getByRole("button", { name: "1500" }));
  expect(told.mock.calls).toEqual([[1500]]);
});

test.each([
  [-5, { signed: true }, [[-5.1]]],
  [0, { signed: true }, [[-0.1]]],
  [0, {}, []],
  [0.05, {}, [[0]]],
] as const)("arrow down at %d", async (start, rest, calls) => {
  const { field, told, user } = held(start, rest);
  await user.type(field, "{ArrowDown}");
  expect(told.mock.calls).toEqual(calls);
});

test("a time counts when the field is left, not on the way to it", async () => {
  const { field, told, user } = held(3, { as: "hours" });
  await user.clear(field);
  await user.type(field, "0");
  await new Promise((resolve) => setTimeout(resolve, 500));
  expect(told).not.toHaveBeenCalled();
  await user.type(field, ".5");
  await user.tab();
  expect(told.mock.calls).toEqual([[0.5]]);
});

test("after an undo elsewhere the field shows what the document holds", async () => {
  const { field, told, user } = held(12);
  await user.clear(field);
  await user.type(field, "24{Enter}");
  expect(told.mock.calls).toEqual([[24]]);
  fireEvent.click(screen.getByText("undo"));
  expect(field.value).toBe("12");
});

test("its own unit may be typed; Escape leaves it as it was", async () => {
  const { field, told, user } = held(12, { unit: "V" });
  await user.clear(field);
  await user.type(field, "48 V{Enter}");
  expect(told.mock.calls).toEqual([[48]]);
  await user.type(field, "9");
  await user.keyboard("{Escape}");
  expect(field.value).toBe("48");
});
