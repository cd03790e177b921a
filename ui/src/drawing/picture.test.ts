import { expect, test } from "vitest";
import { written } from "./picture";

const SVG = "http://www.w3.org/2000/svg";

test("a copy says itself how it looks, and has nothing of the screen", () => {
  const drawing = document.createElementNS(SVG, "svg");
  drawing.innerHTML =
    '<g class="settles" data-thing="bank" tabindex="0" role="button" aria-label="Bank">' +
    '<rect width="10" height="4" style="fill: rgb(1, 2, 3); stroke-width: 2px" />' +
    '<text x="1" text-anchor="end">Bank</text></g>';
  document.body.append(drawing);
  const copy = written(drawing);
  const [group, rect, text] = copy.querySelectorAll("g, rect, text");
  for (const name of ["class", "data-thing", "tabindex", "role", "aria-label"]) {
    expect(group?.hasAttribute(name)).toBe(false);
  }
  expect(rect?.getAttribute("fill")).toBe("rgb(1, 2, 3)");
  expect(rect?.getAttribute("stroke-width")).toBe("2px");
  expect(rect?.hasAttribute("style")).toBe(false);
  expect(rect?.getAttribute("width")).toBe("10");
  expect(text?.textContent).toBe("Bank");
  // What is on the screen stays as it was.
  expect(drawing.querySelector("g")?.getAttribute("data-thing")).toBe("bank");
});
