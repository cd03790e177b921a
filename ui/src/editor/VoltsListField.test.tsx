import { fireEvent, render, screen } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { VoltsListField } from "./VoltsListField";

const shown = (value: number[], onChange = vi.fn()) => {
  render(<VoltsListField label="volts" value={value} path="/x" onChange={onChange} />);
  return { field: screen.getByLabelText("volts") as HTMLInputElement, onChange };
};

test.each([
  ["12 / 16.5 / 20", [12, 16.5, 20]],
  ["12, 16,5, 20", [12, 16.5, 20]],
  ["12;16.5;20 24", [12, 16.5, 20, 24]],
  ["", []],
])("“%s” is read as a label is", (text, volts) => {
  const { field, onChange } = shown([5]);
  fireEvent.change(field, { target: { value: text } });
  fireEvent.blur(field);
  expect(onChange).toHaveBeenCalledExactlyOnceWith(volts);
});

test("what is no number is said and changes nothing", () => {
  const { field, onChange } = shown([12]);
  fireEvent.change(field, { target: { value: "12 / twelve" } });
  fireEvent.keyDown(field, { key: "Enter" });
  expect(screen.getByRole("alert").textContent).toBe("“twelve” is not a number");
  expect(field.getAttribute("aria-invalid")).toBe("true");
  expect(onChange).not.toHaveBeenCalled();
});

test("written in another way it is the same, and is shown as it is kept", () => {
  const { field, onChange } = shown([12, 16.5]);
  fireEvent.change(field, { target: { value: "12;16,5" } });
  fireEvent.blur(field);
  expect(onChange).not.toHaveBeenCalled();
  expect(field.value).toBe("12 / 16.5");
});
