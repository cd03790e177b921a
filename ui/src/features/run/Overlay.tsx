import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";
import { api } from "../../api/client";
import type { KeptLog } from "../../api/types";
import { useDesign } from "../../design/store";
import { useAnswer } from "../../design/use-answer";
import { Choose } from "../../ui/Choose";

/** Stretches that a log is laid over a run with. */
const POINTS = 900;

/** Logs of the banks of a design, the newest first. */
export function useBankLogs(): readonly KeptLog[] {
  const id = useDesign((state) => state.id);
  const design = useDesign((state) => state.document);
  const logs = useQuery({ queryKey: ["logs", id], queryFn: () => api.logs(id) });
  const banks = new Set(
    (design?.stores ?? []).flatMap((one) => (one.kind === "bank" ? [one.id] : [])),
  );
  return (logs.data ?? []).filter((one) => banks.has(one.subject));
}

/** The volts of a log over the hours of a run; null until they are there. */
export function useOverlay(log: KeptLog | undefined) {
  const id = useDesign((state) => state.id);
  const picture = useQuery({
    queryKey: ["log-picture", id, log?.id, POINTS],
    queryFn: ({ signal }) => api.logPicture(id, log?.id ?? "", POINTS, signal),
    enabled: log !== undefined,
  });
  const rail = log?.subject;
  return useMemo(() => {
    const volts = picture.data?.mean.volts;
    if (!rail || !picture.data || !volts) return null;
    return { rail, hours: picture.data.at_s.map((s) => s / 3600), volts };
  }, [rail, picture.data]);
}

interface OverlayChoiceProps {
  logs: readonly KeptLog[];
  value: string;
  onChange: (log: string) => void;
}

/** Which log is laid over the run. */
export function OverlayChoice({ logs, value, onChange }: OverlayChoiceProps) {
  if (!logs.length) return null;
  return (
    <span className="flex items-center gap-1.5 text-soft">
      Lay over
      <Choose
        label="Lay over"
        value={value}
        options={[["", "no log"], ...logs.map((one) => [one.id, one.name] as const)]}
        onChange={onChange}
      />
    </span>
  );
}

/** How far off the plan was, and what most likely explains it. */
export function PlanAgainstLog({ log }: { log: KeptLog }) {
  const id = useDesign((state) => state.id);
  const answer = useAnswer(
    "plan-against-log",
    (design, signal) => api.planAgainstLog(id, log.id, design, signal),
    { key: [log.id] },
  );
  if (answer.error) {
    return (
      <p role="alert" className="text-sm text-stop">
        {answer.error.message}
      </p>
    );
  }
  if (!answer.data) return null;
  return (
    <section
      className="mt-3 rounded-lg border border-edge bg-card p-3 text-sm"
      aria-label="Plan against log"
      data-part="against"
      data-by={answer.data.by}
    >
      <h2 className="text-lg">Plan against log {log.name}</h2>
      <p>{answer.data.says}</p>
      <p>{answer.data.explained}</p>
      <p className="text-soft text-xs">The log is laid from the start of the run, dashed.</p>
    </section>
  );
}
