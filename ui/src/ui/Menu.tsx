import { lazy, Suspense, useState } from "react";
import type { OpenedMenuProps } from "./OpenedMenu";

const OpenedMenu = lazy(() => import("./OpenedMenu"));

/** A button with a menu. The menu's own code comes with its first opening. */
export function Menu(props: OpenedMenuProps) {
  const [opened, setOpened] = useState(false);
  const button = (
    <button
      type="button"
      className={props.className}
      aria-label={props.label}
      aria-haspopup="menu"
      aria-expanded={false}
      onClick={() => setOpened(true)}
      onKeyDown={(event) => {
        if (event.key !== "ArrowDown") return;
        event.preventDefault();
        setOpened(true);
      }}
    >
      ⋯
    </button>
  );
  if (!opened) return button;
  return (
    <Suspense fallback={button}>
      <OpenedMenu {...props} />
    </Suspense>
  );
}
