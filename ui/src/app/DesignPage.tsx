import { useQuery } from "@tanstack/react-query";
import { memo, useEffect, useMemo } from "react";
import { useParams } from "react-router";
import { api, Refused } from "../api/client";
import type { ProblemPlace } from "../api/types";
import { useDesign } from "../design/store";
import { useAutosave } from "../design/use-autosave";
import { ProblemsContext, useEvaluation, WorkedContext } from "../design/use-evaluation";
import { CablesView } from "../features/cables/CablesView";
import { OptionsView } from "../features/options/OptionsView";
import { PlanView } from "../features/plan/PlanView";
import { RunView } from "../features/run/RunView";
import { Failed, Loading } from "../ui/States";
import { ConflictDialog } from "./ConflictDialog";
import { Header } from "./Header";
import type { View } from "./views";

/** The views of a design, in the order of the work. */

const NONE: readonly ProblemPlace[] = [];

/** One design: fetched once, then worked on here and saved as it changes. */
export function DesignPage({ view }: { view: View }) {
  const { id = "" } = useParams();
  const open = useDesign((state) => state.open);
  const opened = useDesign((state) => state.id);
  const stored = useQuery({
    queryKey: ["design", id],
    queryFn: () => api.design(id),
    staleTime: 0,
    gcTime: 0,
    refetchOnWindowFocus: false,
    retry: (count, error) => !(error instanceof Refused) && count < 3,
  });
  const reference = useQuery({
    queryKey: ["reference"],
    queryFn: api.reference,
    staleTime: Number.POSITIVE_INFINITY,
  });
  useEffect(() => {
    if (stored.data) open(stored.data);
  }, [stored.data, open]);
  const { evaluation, error } = useEvaluation();
  useAutosave();

  const refusal = error instanceof Refused ? error.problem : null;
  const worked = useMemo(
    () => (evaluation && reference.data ? { evaluation, reference: reference.data } : null),
    [evaluation, reference.data],
  );
  const name = useDesign((state) => state.document?.name);
  useEffect(() => {
    document.title = name ? `${name} · Gravel Jar` : "Gravel Jar";
  }, [name]);

  const failed = stored.error ?? reference.error;
  if (failed) {
    return (
      <Failed
        title="This design cannot be opened"
        reason={failed.message}
        onRetry={() => void (stored.error ? stored : reference).refetch()}
      />
    );
  }
  if (!worked || opened !== id) return <Loading what="Working it out" />;
  return (
    <WorkedContext value={worked}>
      <ProblemsContext value={refusal?.errors ?? NONE}>
        <Screen view={view} />
      </ProblemsContext>
    </WorkedContext>
  );
}

/** All that is shown. It takes nothing from above but the contexts, so that a step of saving or
 * fetching does not draw it anew. */
const Screen = memo(function Screen({ view }: { view: View }) {
  return (
    <>
      <Header />
      <ViewOf view={view} />
      <ConflictDialog />
    </>
  );
});

function ViewOf({ view }: { view: View }) {
  switch (view) {
    case "plan":
      return <PlanView />;
    case "run":
      return <RunView />;
    case "cables":
      return <CablesView />;
    default:
      return <OptionsView />;
  }
}
