import { scaleLinear } from "d3-scale";
import {
  type KeyboardEvent,
  type PointerEvent,
  useCallback,
  useEffect,
  useRef,
  useState,
} from "react";
import { useRoom } from "../../drawing/use-room";
import { clock, quantity, hours as written } from "../../lib/format";
import { Button } from "../../ui/Button";
import { Flags } from "./Flags";
import { panned, type View, valueAt, zoomed } from "./geometry";
import { BOTTOM, FLAGS_H, HEIGHT, LEFT, Panes } from "./Panes";
import { useShown } from "./use-course";

interface ChartProps {
  cursor: number;
  onCursor: (hours: number) => void;
}

const MIN_DRAG = 6;

/** The time line: a cursor reads it, plus and minus or a drag zoom it, nothing moves by itself. */
export function Chart({ cursor, onCursor }: ChartProps) {
  const { course, rail, store } = useShown();
  const frame = useRef<HTMLDivElement>(null);
  const width = useRoom(frame);
  const whole: View = { from: 0, to: Math.max(course.until_h, 0.1) };
  const [view, setView] = useState<View>(whole);
  const [drag, setDrag] = useState<{ from: number; to: number } | null>(null);
  useEffect(() => setView({ from: 0, to: Math.max(course.until_h, 0.1) }), [course.until_h]);

  const x = scaleLinear([view.from, view.to], [LEFT, width - 8]);
  const hourAt = (event: { clientX: number }) => {
    const box = frame.current?.getBoundingClientRect();
    const hour = x.invert(event.clientX - (box?.left ?? 0));
    return Math.min(Math.max(hour, view.from), view.to);
  };
  const move = useCallback(
    (to: number) => onCursor(Math.min(Math.max(to, 0), course.until_h)),
    [onCursor, course.until_h],
  );
  const zoom = (factor: number, at = cursor) => setView((now) => zoomed(now, whole, at, factor));
  const follow = (to: number) => {
    move(to);
    if (to < view.from || to > view.to)
      setView(panned(view, whole, to - (view.from + view.to) / 2));
  };

  const keys = (event: KeyboardEvent) => {
    if (event.ctrlKey || event.metaKey || event.altKey) return;
    const step = (view.to - view.from) / 100;
    const flags = course.flags.map((flag) => flag.hours);
    const actions: Record<string, () => void> = {
      ArrowLeft: () =>
        follow(event.shiftKey ? (flags.findLast((at) => at < cursor - 1e-6) ?? 0) : cursor - step),
      ArrowRight: () =>
        follow(
          event.shiftKey ? (flags.find((at) => at > cursor + 1e-6) ?? whole.to) : cursor + step,
        ),
      PageUp: () => follow(cursor - step * 20),
      PageDown: () => follow(cursor + step * 20),
      Home: () => follow(0),
      End: () => follow(whole.to),
      "+": () => zoom(0.5),
      "=": () => zoom(0.5),
      "-": () => zoom(2),
      "0": () => setView(whole),
    };
    const act = actions[event.key];
    if (!act) return;
    event.preventDefault();
    act();
  };
  // Not passive: the page must not be zoomed in place of the run.
  useEffect(() => {
    const element = frame.current;
    const wheel = (event: WheelEvent) => {
      const box = element?.getBoundingClientRect();
      if (!box) return;
      const sideways = Math.abs(event.deltaX) > Math.abs(event.deltaY);
      if (!event.ctrlKey && !event.metaKey && !sideways) return;
      event.preventDefault();
      setView((now) => {
        const limits = { from: 0, to: Math.max(course.until_h, 0.1) };
        const span = now.to - now.from;
        const share = (event.clientX - box.left - LEFT) / Math.max(box.width - LEFT - 8, 1);
        return sideways
          ? panned(now, limits, (event.deltaX / box.width) * span)
          : zoomed(now, limits, now.from + share * span, event.deltaY > 0 ? 1.25 : 0.8);
      });
    };
    element?.addEventListener("wheel", wheel, { passive: false });
    return () => element?.removeEventListener("wheel", wheel);
  }, [course.until_h]);

  const down = (event: PointerEvent) => {
    if (event.button !== 0) return;
    const at = hourAt(event);
    setDrag({ from: at, to: at });
    move(at);
    frame.current?.setPointerCapture(event.pointerId);
  };
  const over = (event: PointerEvent) => {
    const at = hourAt(event);
    move(at);
    if (drag) setDrag({ ...drag, to: at });
  };
  const up = () => {
    if (drag && Math.abs(x(drag.to) - x(drag.from)) > MIN_DRAG) {
      const [from, to] = [Math.min(drag.from, drag.to), Math.max(drag.from, drag.to)];
      setView(zoomed({ from, to }, whole, (from + to) / 2, 1));
    }
    setDrag(null);
  };

  const { series } = course;
  const read = (column: readonly number[] | undefined) =>
    valueAt(series.hours, column ?? [], cursor);
  const text = `${written(cursor)} in, ${clock(course.starts_at_h + cursor)}: ${quantity(read(series.charge[store]), "share", 2)} charge, ${quantity(read(series.volts[rail]), "V")}`;
  const seen = cursor >= view.from && cursor <= view.to;
  return (
    <div>
      <div className="no-print flex flex-wrap items-center gap-1 text-sm">
        <span className="text-soft">Zoom</span>
        <Button look="quiet" onClick={() => zoom(0.5)} title="Closer (+)">
          +<span className="sr-only">closer</span>
        </Button>
        <Button look="quiet" onClick={() => zoom(2)} title="Wider (−)">
          −<span className="sr-only">wider</span>
        </Button>
        <Button look="quiet" onClick={() => setView(whole)} title="All of it (0)">
          All
        </Button>
        <span className="text-soft text-xs">
          drag over a stretch, or Ctrl and the wheel; ← → move the cursor, with Shift from flag to
          flag
        </span>
      </div>
      <div
        ref={frame}
        className="run-chart touch-pan-y"
        role="slider"
        tabIndex={0}
        aria-label="Time line of the run"
        aria-valuemin={0}
        aria-valuemax={course.until_h}
        aria-valuenow={cursor}
        aria-valuetext={text}
        data-from={view.from}
        data-to={view.to}
        onKeyDown={keys}
        onPointerDown={down}
        onPointerMove={over}
        onPointerUp={up}
        onPointerCancel={() => setDrag(null)}
      >
        <svg width="100%" height={HEIGHT} viewBox={`0 0 ${width} ${HEIGHT}`} aria-hidden="true">
          <Panes view={view} width={width} />
          <Flags view={view} width={width} />
          {drag ? (
            <rect
              x={Math.min(x(drag.from), x(drag.to))}
              y={FLAGS_H}
              width={Math.abs(x(drag.to) - x(drag.from))}
              height={BOTTOM - FLAGS_H}
              fill="var(--river)"
              opacity={0.15}
            />
          ) : null}
          {seen ? (
            <line
              x1={x(cursor)}
              x2={x(cursor)}
              y1={FLAGS_H}
              y2={BOTTOM}
              stroke="var(--ink)"
              strokeWidth={1.5}
              strokeDasharray="2 3"
              data-part="cursor"
            />
          ) : null}
        </svg>
      </div>
    </div>
  );
}
