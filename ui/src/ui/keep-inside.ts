/** Room left beside what is moved. [px] */
const ROOM_PX = 8;

/** Move what hangs at a field to the left, as far as it would be cut off at the right. For `ref`. */
export function keepInside(hanging: HTMLElement | null): void {
  if (!hanging) return;
  hanging.style.translate = "";
  const beyond = hanging.getBoundingClientRect().right + ROOM_PX - rightEdgeOf(hanging);
  if (beyond > 0) hanging.style.translate = `${-beyond}px`;
}

/** Where what is around it ends: the window, or what scrolls within it. [px] */
function rightEdgeOf(inner: HTMLElement): number {
  let edge = document.documentElement.clientWidth;
  for (let around = inner.parentElement; around; around = around.parentElement) {
    if (getComputedStyle(around).overflowX !== "visible")
      edge = Math.min(edge, around.getBoundingClientRect().right);
  }
  return edge;
}
