import {
  type CSSProperties,
  type KeyboardEvent,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { layOut } from "./layout";
import { System } from "./System";
import { stepFrom, type Way } from "./tree";
import { type Drawn, DrawnContext } from "./use-drawn";
import { useRoom } from "./use-room";
import { Words } from "./Words";

const WAYS: Record<string, Way> = {
  ArrowLeft: "left",
  ArrowRight: "right",
  ArrowUp: "up",
  ArrowDown: "down",
  Home: "first",
  End: "last",
};

/** The system as the program sees it; nothing in it is placed by hand. */
export function Drawing({
  maxHeight,
  lengths = false,
  ...drawn
}: Omit<Drawn, "reached" | "lengths"> & { maxHeight: string; lengths?: boolean }) {
  const { design, evaluation, selected, onSelect } = drawn;
  const frame = useRef<HTMLElement>(null);
  const room = useRoom(frame);
  const [unfolded, setUnfolded] = useState<ReadonlySet<string>>(new Set());
  const strips = useMemo(
    () => new Set(evaluation.joints.map((joint) => joint.subject)),
    [evaluation.joints],
  );
  const placed = useMemo(
    () => layOut(design, { room, unfolded, strips }),
    [design, room, unfolded, strips],
  );
  // One thing can always be reached with Tab.
  const known = selected !== null && placed.order.includes(selected);
  const reached = known ? selected : (placed.order[0] ?? null);

  const keys = (event: KeyboardEvent) => {
    const way = WAYS[event.key];
    const on = event.target instanceof Element && event.target.closest("[data-thing]");
    if (!way || !on || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    const at = on.getAttribute("data-thing") ?? "";
    onSelect(stepFrom(design, placed.order, at, way));
  };
  // The focus follows the selection while it is in the drawing.
  useEffect(() => {
    if (!selected || !frame.current?.contains(document.activeElement)) return;
    const thing = frame.current.querySelector<SVGGElement>(
      `[data-thing="${CSS.escape(selected)}"]`,
    );
    if (thing !== document.activeElement) thing?.focus();
  }, [selected]);
  const toggle = (rail: string) =>
    setUnfolded((now) => {
      const next = new Set(now);
      if (!next.delete(rail)) next.add(rail);
      return next;
    });

  const width = Math.max(placed.width, 1);
  const least = placed.narrow ? width : Math.max(width * 0.86, Math.min(width, room));
  return (
    <DrawnContext value={{ ...drawn, lengths, reached }}>
      <section
        ref={frame}
        className="drawing overflow-auto"
        style={{ maxHeight }}
        aria-label="Drawing of the system"
        aria-describedby="drawing-keys"
        data-narrow={placed.narrow}
        onKeyDown={keys}
      >
        <p id="drawing-keys" className="sr-only">
          Arrow keys move from part to part, Enter opens what is selected.
        </p>
        <svg
          viewBox={`0 0 ${width} ${placed.height}`}
          style={{ "--least": `${least}px`, "--most": `${width * 1.12}px` } as CSSProperties}
          role="group"
          aria-label="The system"
        >
          <System placed={placed} onToggle={toggle} />
        </svg>
      </section>
      <Words />
    </DrawnContext>
  );
}
