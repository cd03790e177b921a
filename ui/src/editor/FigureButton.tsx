import { lazy, type ReactNode, Suspense, useRef, useState } from "react";
import { useWorked } from "../design/use-evaluation";
import { quantity } from "../lib/format";

const WorkingPopover = lazy(() => import("./WorkingPopover"));

interface FigureButtonProps {
  /** Key of the figure in the evaluation. */
  of: string;
  digits?: number;
  className?: string;
  /** Shown instead of the value. */
  children?: ReactNode;
}

/** A figure that opens its working: formula, numbers put in, result, sources. */
export function FigureButton({ of, digits = 3, className = "", children }: FigureButtonProps) {
  const { evaluation } = useWorked();
  const [open, setOpen] = useState(false);
  const button = useRef<HTMLButtonElement>(null);
  const figure = evaluation.figures[of];
  if (!figure) return <span className={className}>{children ?? "–"}</span>;
  return (
    <>
      <button
        ref={button}
        type="button"
        className={`figure ${className}`}
        data-figure={of}
        title={`${figure.name}: show the working`}
        aria-haspopup="dialog"
        aria-expanded={open}
        onClick={() => setOpen(!open)}
      >
        {children ?? quantity(figure.value, figure.unit, digits)}
      </button>
      {open ? (
        <Suspense fallback={null}>
          <WorkingPopover of={of} button={button} onClose={() => setOpen(false)} />
        </Suspense>
      ) : null}
    </>
  );
}
