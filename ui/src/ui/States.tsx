import { Link } from "react-router";
import { Button } from "./Button";
import { JarMark } from "./JarMark";

/** While something is fetched. */
export function Loading({ what }: { what: string }) {
  return (
    <p className="flex items-center justify-center gap-3 p-16 text-soft" role="status">
      <JarMark /> {what}
    </p>
  );
}

interface FailedProps {
  title: string;
  reason: string;
  onRetry?: () => void;
  /** Within a view, which goes on around it. */
  within?: boolean;
}

/** When something could not be had: what, why, and what to do. */
export function Failed({ title, reason, onRetry, within = false }: FailedProps) {
  const failed = (
    <div className="mx-auto max-w-140 p-10" role="alert">
      <h1 className="text-2xl">{title}</h1>
      <p className="mt-2">{reason}</p>
      <p className="mt-5 flex gap-3">
        {onRetry ? (
          <Button look="main" onClick={onRetry}>
            Try again
          </Button>
        ) : null}
        <Link to="/" className="self-center text-river underline">
          All designs
        </Link>
      </p>
    </div>
  );
  return within ? failed : <main>{failed}</main>;
}
