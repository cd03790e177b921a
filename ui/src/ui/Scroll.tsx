import { type ReactNode, useEffect, useRef, useState } from "react";

interface ScrollProps {
  label: string;
  className?: string;
  children: ReactNode;
}

/** What may be larger than its place scrolls in it. While it does, Tab leads to it. */
export function Scroll({ label, className = "", children }: ScrollProps) {
  const frame = useRef<HTMLElement>(null);
  const [scrolls, setScrolls] = useState(false);
  useEffect(() => {
    const place = frame.current;
    if (!place) return;
    const look = () =>
      setScrolls(
        place.scrollWidth > place.clientWidth + 1 || place.scrollHeight > place.clientHeight + 1,
      );
    const watcher = new ResizeObserver(look);
    watcher.observe(place);
    if (place.firstElementChild) watcher.observe(place.firstElementChild);
    return () => watcher.disconnect();
  }, []);
  return (
    <section
      ref={frame}
      aria-label={label}
      className={`relative overflow-x-auto has-[[role=alert]]:pb-12 ${className}`}
      {...(scrolls ? { tabIndex: 0 } : {})}
    >
      {children}
    </section>
  );
}
