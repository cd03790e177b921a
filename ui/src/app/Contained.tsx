import type { ReactNode } from "react";
import { ErrorBoundary, type FallbackProps } from "react-error-boundary";
import { Button } from "../ui/Button";

/** Keeps a fault in drawing a view to that view: edits are kept, the rest goes on. */
export function Contained({ children }: { children: ReactNode }) {
  return <ErrorBoundary FallbackComponent={Fault}>{children}</ErrorBoundary>;
}

function Fault({ error, resetErrorBoundary }: FallbackProps) {
  return (
    <main className="mx-auto max-w-140 p-10" role="alert" data-part="fault">
      <h1 className="text-2xl">This view could not be drawn</h1>
      <p className="mt-2">
        Your changes are kept: those not on the server yet are in this browser. Drawing it again may
        help; reloading opens the design anew with all of them.
      </p>
      <p className="mt-2 text-soft text-sm">
        What went wrong: {error instanceof Error ? error.message : "unknown"}
      </p>
      <p className="mt-5 flex gap-3">
        <Button look="main" onClick={() => window.location.reload()}>
          Reload
        </Button>
        <Button onClick={resetErrorBoundary}>Draw it again</Button>
        <a href="/" className="self-center text-river underline">
          All designs
        </a>
      </p>
    </main>
  );
}
