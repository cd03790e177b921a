import type { ReactNode } from "react";

interface RowProps {
  name: string;
  help?: string;
  children: ReactNode;
}

/** A named line of a panel: the name at left, what is set or shown at right. */
export function Row({ name, help, children }: RowProps) {
  return (
    <div className="flex min-h-9 flex-wrap items-center gap-x-3 gap-y-1 py-0.5">
      <span className="w-44 shrink-0 text-sm">
        {name}
        {help ? <span className="block text-2xs text-soft">{help}</span> : null}
      </span>
      <span className="flex flex-wrap items-center gap-2">{children}</span>
    </div>
  );
}

interface GroupProps {
  title: string;
  children: ReactNode;
}

/** Rows that belong together. */
export function Group({ title, children }: GroupProps) {
  return (
    <fieldset className="min-w-0 border-line border-t pt-2 pb-3">
      <legend className="pr-2 font-head font-semibold text-sm">{title}</legend>
      {children}
    </fieldset>
  );
}
