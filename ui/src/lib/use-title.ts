import { useEffect } from "react";

/** The title of the page while a view is shown, before the program's name. */
export function useTitle(...parts: readonly (string | undefined)[]): void {
  const title = [...parts, "Gravel Jar"].filter(Boolean).join(" · ");
  useEffect(() => {
    document.title = title;
  }, [title]);
}
