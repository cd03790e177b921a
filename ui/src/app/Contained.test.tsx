import { render, screen } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { expect, test, vi } from "vitest";
import { Contained } from "./Contained";

let broken = true;

function View() {
  if (broken) throw new Error("no such rail");
  return <p>drawn</p>;
}

test("a fault in drawing one view leaves the rest, says what happened, and can be tried again", async () => {
  // React tells of it too.
  vi.spyOn(console, "error").mockImplementation(() => undefined);
  render(
    <>
      <p>header</p>
      <Contained>
        <View />
      </Contained>
    </>,
  );
  expect(screen.getByRole("alert").textContent).toMatch(/changes are kept.*no such rail/s);
  expect(screen.getByText("header")).toBeTruthy();
  expect(screen.getByRole("button", { name: "Reload" })).toBeTruthy();
  broken = false;
  await userEvent.click(screen.getByRole("button", { name: "Draw it again" }));
  expect(screen.getByText("drawn")).toBeTruthy();
});
