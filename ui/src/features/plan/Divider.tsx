import { type KeyboardEvent, type PointerEvent, useRef } from "react";
import { useSettings } from "../../lib/settings";

const MIN_SHARE = 0.15;
const MAX_SHARE = 0.8;
const STEP = 0.05;

const within = (share: number) => Math.min(Math.max(share, MIN_SHARE), MAX_SHARE);

/** Between the drawing and the panel below it: dragged, or moved by the arrow keys; remembered. */
export function Divider() {
  const share = useSettings((state) => state.drawingShare);
  const set = useSettings((state) => state.set);
  const from = useRef<{ y: number; share: number } | null>(null);

  const begin = (event: PointerEvent<HTMLElement>) => {
    event.currentTarget.setPointerCapture(event.pointerId);
    from.current = { y: event.clientY, share };
  };
  const drag = (event: PointerEvent<HTMLElement>) => {
    if (!from.current) return;
    const moved = (event.clientY - from.current.y) / window.innerHeight;
    set({ drawingShare: within(from.current.share + moved) });
  };
  const press = (event: KeyboardEvent<HTMLElement>) => {
    const way = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (!way) return;
    event.preventDefault();
    set({ drawingShare: within(share + way * STEP) });
  };
  return (
    <div
      role="separator"
      aria-orientation="horizontal"
      aria-label="Height of the drawing"
      aria-valuenow={Math.round(share * 100)}
      aria-valuemin={MIN_SHARE * 100}
      aria-valuemax={MAX_SHARE * 100}
      tabIndex={0}
      className="no-print group flex h-2.5 cursor-row-resize touch-none items-center justify-center border-line border-b bg-bench"
      onPointerDown={begin}
      onPointerMove={drag}
      onPointerUp={() => {
        from.current = null;
      }}
      onKeyDown={press}
    >
      <span className="h-1 w-12 rounded bg-edge group-hover:bg-river group-focus-visible:bg-river" />
    </div>
  );
}
