import { type RefObject, useLayoutEffect, useState } from "react";

/** The width there is for something, as the window changes. [px] */
export function useRoom(frame: RefObject<HTMLElement | null>): number {
  const [room, setRoom] = useState(900);
  useLayoutEffect(() => {
    const element = frame.current;
    if (!element) return;
    const measure = () => setRoom(Math.floor(element.clientWidth));
    measure();
    const watcher = new ResizeObserver(measure);
    watcher.observe(element);
    return () => watcher.disconnect();
  }, [frame]);
  return room;
}
