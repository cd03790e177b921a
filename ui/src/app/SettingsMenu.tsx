import { lazy, Suspense, useRef, useState } from "react";
import { useDesign } from "../design/store";
import { temperature } from "../lib/format";
import { useSettings } from "../lib/settings";

const SettingsPopover = lazy(() => import("./SettingsPopover"));

/** Where the design is used, in a few words; opens the settings. */
export function SettingsMenu() {
  const setting = useDesign((state) => state.document?.setting);
  const unit = useSettings((state) => state.temperature);
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  if (!setting) return null;
  return (
    <>
      <button
        ref={button}
        type="button"
        className="flex gap-3 whitespace-nowrap rounded px-2 py-1 text-sm hover:bg-river-wash"
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        <span>{temperature(setting.ambient_c, unit)}</span>
        <span className="max-sm:hidden">
          {setting.ac_volts} V {setting.ac_hz} Hz
        </span>
        <span aria-hidden="true">▾</span>
        <span className="sr-only">Settings</span>
      </button>
      {open ? (
        <Suspense fallback={null}>
          <SettingsPopover button={button} onClose={() => setOpen(false)} />
        </Suspense>
      ) : null}
    </>
  );
}
