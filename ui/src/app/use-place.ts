import { useLayoutEffect, useRef } from "react";
import { useLocation, useNavigationType } from "react-router";

/** Where each page that was left stood, by its entry in the history. [px] */
const STOOD = new Map<string, number>();
/** A page that is not as long again after so long is left as it is. [ms] */
const PATIENCE_MS = 10_000;
/** With these a person goes elsewhere on the page: then it stays where it is. */
const MOVES = ["wheel", "touchstart", "pointerdown", "keydown"] as const;

/**
 * A page begins at its top; on the way back it stands where it was left.
 *
 * The browser would see to the second by itself, but looks for the place before what is shown
 * there has come.
 */
export function usePlace(): void {
  const { key, pathname } = useLocation();
  const how = useNavigationType();
  const before = useRef(pathname);
  useLayoutEffect(() => {
    const here = new AbortController();
    const { signal } = here;
    const keep = () => STOOD.set(key, window.scrollY);
    // Within a page, to an anchor and back, the browser finds every place.
    if (before.current !== pathname) goTo(how === "POP" ? (STOOD.get(key) ?? 0) : 0, here);
    before.current = pathname;
    window.addEventListener("scroll", keep, { passive: true, signal });
    // What leads elsewhere is clicked, perhaps before the last scroll is told.
    window.addEventListener("click", keep, { capture: true, signal });
    return () => here.abort();
  }, [key, pathname, how]);
}

/** Scroll to a place as soon as the page is long enough; until it is left, or moved by a person. */
function goTo(place: number, page: AbortController): void {
  const { documentElement: root, body } = document;
  const done = new AbortController();
  const signal = AbortSignal.any([page.signal, done.signal, AbortSignal.timeout(PATIENCE_MS)]);
  const look = () => {
    if (root.scrollHeight - root.clientHeight < place) return;
    window.scrollTo(0, place);
    done.abort();
  };
  look();
  if (signal.aborted) return;
  const grown = new ResizeObserver(look);
  grown.observe(body);
  signal.addEventListener("abort", () => grown.disconnect());
  for (const move of MOVES) window.addEventListener(move, () => done.abort(), { signal });
}
