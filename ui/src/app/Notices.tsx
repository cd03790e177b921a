import { lazy, Suspense, useEffect, useState } from "react";
import { useNotice } from "../lib/notice";

const Notice = lazy(() => import("./Notice"));

/** Shows notices once there is a first one. */
export function Notices() {
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
