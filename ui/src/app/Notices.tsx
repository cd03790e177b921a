import { lazy, Suspense, useEffect, useState } from "react";
import { useLocation } from "react-router";
import { designAt, useNotice } from "../lib/notice";

const Notice = lazy(() => import("./Notice"));

/** Shows notices once there is a first one; those of a design until it is left. */
export function Notices() {
  const shown = designAt(useLocation().pathname);
  useEffect(() => {
    const { notice, close } = useNotice.getState();
    // Its "Undo" would undo the last change of the design that is shown now.
    if (notice?.of && notice.of !== shown) close();
  }, [shown]);
  const any = useNotice((state) => state.notice !== null);
  const [begun, setBegun] = useState(false);
  useEffect(() => {
    if (any) setBegun(true);
  }, [any]);
  return begun ? (
    <Suspense fallback={null}>
      <Notice />
    </Suspense>
  ) : null;
}
