import { type ReactNode, useEffect, useId, useRef, useState } from "react";
import { RowNameContext } from "./field-name";

interface RowProps {
  name: string;
  help?: string;
  children: ReactNode;
}

/** A named line of a panel: the name at left, what is set or shown at right. */
export function Row({ name, help, children }: RowProps) {
  const nameId = useId();
  const fields = useRef<HTMLSpanElement>(null);
  const [first, setFirst] = useState<string>();
  // A click on the name goes to the first field, as with any label.
  useEffect(() => {
    const field = fields.current?.querySelector("input, select, textarea");
    setFirst(field?.id || undefined);
  }, []);
  const Name = first ? "label" : "span";
  return (
    <div className="flex min-h-9 flex-wrap items-center gap-x-3 gap-y-1 py-0.5">
      <Name className="w-44 shrink-0 text-sm" {...(first ? { htmlFor: first } : {})}>
        <span id={nameId}>{name}</span>
        {help ? <span className="block text-2xs text-soft">{help}</span> : null}
      </Name>
      <span ref={fields} className="flex flex-wrap items-center gap-2">
        <RowNameContext value={nameId}>{children}</RowNameContext>
      </span>
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
