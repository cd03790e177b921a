import { useQuery } from "@tanstack/react-query";
import { lazy, memo, Suspense, useEffect, useMemo, useState } from "react";
import { useParams } from "react-router";
import { api, Refused } from "../api/client";
import type { Stored } from "../api/types";
import { savesDone, useAutosave } from "../design/autosave";
import { type Draft, dropDraft, findDraft, findSteps } from "../design/drafts";
import { placeInWords, problemInWords } from "../design/place-words";
import { type Opened, useDesign } from "../design/store";
import { isPassing } from "../design/use-answer";
import {
  ProblemsContext,
  StandingContext,
  useEvaluation,
  WorkedContext,
} from "../design/use-evaluation";
import { fetchPanels, PlanView } from "../features/plan/PlanView";
import { useNotice } from "../lib/notice";
import { useTitle } from "../lib/use-title";
import { Failed, Loading } from "../ui/States";
import { Contained } from "./Contained";
import { Header } from "./Header";
import { VIEWS, type View } from "./views";

const later = () => import("./later");
const RunView = lazy(() => later().then((all) => ({ default: all.RunView })));
const CablesView = lazy(() => later().then((all) => ({ default: all.CablesView })));
const RefillView = lazy(() => later().then((all) => ({ default: all.RefillView })));
const OptionsView = lazy(() => later().then((all) => ({ default: all.OptionsView })));
const BenchView = lazy(() => later().then((all) => ({ default: all.BenchView })));
const SheetView = lazy(() => later().then((all) => ({ default: all.SheetView })));
const ConflictDialog = lazy(() => later().then((all) => ({ default: all.ConflictDialog })));
const GoneDialog = lazy(() => later().then((all) => ({ default: all.GoneDialog })));

const LATER = [
  later,
  () => import("./HistoryDialog"),
  () => import("./KeysDialog"),
  () => import("./Notice"),
  () => import("./SettingsPopover"),
  () => import("../editor/WorkingPopover"),
  () => import("../ui/OpenedMenu"),
];

/** What is opened next is fetched while nothing else is done: it opens at once, server or not. */
const fetchOthers = () => {
  for (const one of LATER) one().catch(() => undefined);
  fetchPanels();
};

const MAX_RETRIES = 3;
const IDLE_MS = 300;

/** What there is of a design: on the server, and in this browser from an earlier visit. */
async function openedOf(id: string): Promise<Opened> {
  await savesDone(id);
  const [stored, draft, steps] = await Promise.all([
    storedOf(id),
    findDraft(id).catch(() => null),
    findSteps(id).catch(() => null),
  ]);
  if (stored instanceof Error) {
    if (!draft) throw stored;
    return { id, stored: null, draft, steps };
  }
  // It arrived after all, and the window was closed before it heard of it.
  if (draft && draft.base !== stored.revision && (await alike(stored, draft))) {
    await dropDraft(id);
    return { id, stored, draft: null, steps };
  }
  return { id, stored, draft, steps };
}

/** Whether the server sees no difference: it knows the defaults that one side may leave out. */
const alike = (stored: Stored, draft: Draft): Promise<boolean> =>
  api.changes(stored.document, draft.document, new AbortController().signal).then(
    (changes) => changes.length === 0,
    () => false,
  );

/** The design, or the refusal that says it is not there. */
async function storedOf(id: string): Promise<Stored | Refused> {
  try {
    return await api.design(id);
  } catch (error) {
    if (error instanceof Refused && error.problem.status === 404) return error;
    throw error;
  }
}

/** One design: fetched once, then worked on here and saved as it changes. */
export default function DesignPage({ view }: { view: View }) {
  const { id = "" } = useParams();
  const open = useDesign((state) => state.open);
  const shown = useDesign((state) => state.id);
  const fetched = useQuery({
    queryKey: ["design", id],
    queryFn: () => openedOf(id),
    // Once: what is worked on here is never replaced behind the user's back.
    staleTime: Number.POSITIVE_INFINITY,
    gcTime: 0,
    retry: (count, error) => isPassing(error) && count < MAX_RETRIES,
  });
  const reference = useQuery({
    queryKey: ["reference"],
    queryFn: api.reference,
    staleTime: Number.POSITIVE_INFINITY,
  });
  // On coming back the design of before is still here: changed now, it would be replaced.
  const [opened, setOpened] = useState<Opened | null>(null);
  useEffect(() => {
    if (!fetched.data) return;
    open(fetched.data);
    setOpened(fetched.data);
    if (fetched.data.draft && fetched.data.stored) offerDiscard(fetched.data.stored);
  }, [fetched.data, open]);
  const { evaluation, stamp, standing, problems, error, retry } = useEvaluation();
  useAutosave();

  const worked = useMemo(
    () =>
      evaluation && stamp && reference.data
        ? { evaluation, stamp, reference: reference.data }
        : null,
    [evaluation, stamp, reference.data],
  );
  const ready = worked !== null;
  useEffect(() => {
    if (!ready) return;
    const timer = setTimeout(fetchOthers, IDLE_MS);
    return () => clearTimeout(timer);
  }, [ready]);
  const name = useDesign((state) => state.document?.name);
  useTitle(name, VIEWS.find(([key]) => key === view)?.[1]);

  const failed = fetched.error ?? reference.error;
  if (failed) {
    return (
      <Failed
        title="This design cannot be opened"
        reason={failed.message}
        onRetry={() => void (fetched.error ? fetched : reference).refetch()}
      />
    );
  }
  if (
    !opened ||
    opened !== fetched.data ||
    shown !== id ||
    !reference.data ||
    (!worked && !error)
  ) {
    return <Loading what="Working it out" />;
  }
  if (!worked) {
    return (
      <Failed
        title="This design cannot be worked out"
        reason={`${error?.message ?? ""} ${problems.map((x) => `${placeInWords(x.path, useDesign.getState().document)} ${problemInWords(x)}`).join("; ")}`}
        onRetry={retry}
      />
    );
  }
  return (
    <WorkedContext value={worked}>
      <ProblemsContext value={problems}>
        <StandingContext value={standing}>
          <Screen view={view} />
        </StandingContext>
      </ProblemsContext>
    </WorkedContext>
  );
}

/** Changes from the last visit are back: say so, with the way to the saved design. */
function offerDiscard(stored: Stored): void {
  if (useDesign.getState().saving.status !== "waiting") return;
  useNotice
    .getState()
    .notify("Changes from your last visit were not saved on the server. They are back.", {
      label: "Discard them",
      act: () => {
        useDesign.getState().openStored(stored);
        void dropDraft(stored.id);
      },
    });
}

/** All that is shown. It takes nothing from above but the contexts, so that a step of saving or
 * fetching does not draw it anew. */
const Screen = memo(function Screen({ view }: { view: View }) {
  return (
    <>
      <Header />
      <Contained key={view}>
        <Suspense fallback={<Loading what="Opening the view" />}>
          <ViewOf view={view} />
        </Suspense>
      </Contained>
      <Choices />
    </>
  );
});

/** What a person has to choose before saving goes on. */
function Choices() {
  const status = useDesign((state) => state.saving.status);
  return (
    <Suspense fallback={null}>
      {status === "conflict" ? <ConflictDialog /> : null}
      {status === "gone" ? <GoneDialog /> : null}
    </Suspense>
  );
}

function ViewOf({ view }: { view: View }) {
  switch (view) {
    case "plan":
      return <PlanView />;
    case "run":
      return <RunView />;
    case "cables":
      return <CablesView />;
    case "refill":
      return <RefillView />;
    case "bench":
      return <BenchView />;
    case "sheet":
      return <SheetView />;
    default:
      return <OptionsView />;
  }
}
