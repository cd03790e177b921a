/**
 * What is looked at, in the address: a reload and Back return there. It is written beside the
 * router, so that a moved cursor does not draw the page anew.
 */

const PAUSE_MS = 200;

export const readAddress = (name: string): string | null =>
  new URLSearchParams(window.location.search).get(name);

let waiting = new Map<string, string>();
let timer: ReturnType<typeof setTimeout> | undefined;

/** Put some values into the address of this page; empty ones are left out. */
export function writeAddress(values: Readonly<Record<string, string>>): void {
  for (const [name, value] of Object.entries(values)) waiting.set(name, value);
  const { pathname } = window.location;
  clearTimeout(timer);
  timer = setTimeout(() => {
    const written = waiting;
    waiting = new Map();
    // Left before it was written: the address is another page's.
    if (window.location.pathname !== pathname) return;
    const given = new URLSearchParams(window.location.search);
    for (const [name, value] of written) {
      if (value) given.set(name, value);
      else given.delete(name);
    }
    const text = given.toString();
    const address = `${pathname}${text ? `?${text}` : ""}${window.location.hash}`;
    window.history.replaceState(window.history.state, "", address);
  }, PAUSE_MS);
}
