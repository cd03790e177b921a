import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api } from "../../api/client";
import type { DesignPlace, Glance, Summary } from "../../api/types";
import { hours, quantity } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { SEVERITIES } from "../../pictures/severities";
import { Button } from "../../ui/Button";
import { JarPicture } from "../../verdict/JarPicture";
import { archiveDesign, bringBackDesign, removeDesign, restoreDesign } from "./actions";
import { Tags } from "./Tags";

interface DesignCardProps {
  design: Summary;
  place: DesignPlace;
  /** Show the designs that have a word. */
  onFind: (tag: string) => void;
}

/** A design at a glance: its jar, how long, what stops first, the worst finding. */
export function DesignCard({ design, place, onFind }: DesignCardProps) {
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const card = useRef<HTMLLIElement>(null);
  const seen = useSeen(card);
  // Worked out only once it comes into sight: there may be hundreds.
  const { data, error } = useQuery({
    queryKey: ["glance", design.id, design.revision],
    queryFn: ({ signal }) => api.glance(design.id, signal),
    enabled: seen && place !== "deleted",
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
  const duplicate = async () => {
    try {
      const { document } = await api.design(design.id);
      await api.create({ ...document, name: `${document.name} (copy)`.slice(0, 80) });
      await queries.invalidateQueries({ queryKey: ["designs"] });
    } catch (error) {
      notify(`Not duplicated: ${(error as Error).message}`);
    }
  };
  return (
    <li
      ref={card}
      // As high as it becomes: what comes in later must not push the next cards away.
      className={`relative flex flex-col rounded-lg border border-edge bg-card p-3 hover:border-river ${place === "deleted" ? "min-h-44" : "min-h-72"}`}
      data-design={design.name}
    >
      <div className="flex gap-3">
        <div className="w-20 shrink-0">
          {data?.jar ? <JarPicture jar={data.jar} order={data.order} small /> : null}
        </div>
        <div className="min-w-0 flex-1">
          {place === "deleted" ? (
            <span className="font-head font-semibold text-lg leading-tight">{design.name}</span>
          ) : (
            <Link
              to={`/d/${design.id}/plan`}
              className="font-head font-semibold text-lg leading-tight after:absolute after:inset-0 hover:text-river"
            >
              {design.name}
            </Link>
          )}
          {place === "deleted" ? null : <Tags design={design} onFind={onFind} />}
          {data ? <Says glance={data} /> : null}
          {error ? <p className="text-sm text-soft">{error.message}</p> : null}
          {data || error || place === "deleted" ? null : (
            <p className="text-sm text-soft">Working it out …</p>
          )}
        </div>
      </div>
      <p className="mt-auto flex flex-wrap items-center gap-x-2 pt-2 text-soft text-xs">
        <span className="basis-full">
          {data?.stores.join(", ")}
          {data?.stores.length ? " · " : ""}
          {design.loads} {design.loads === 1 ? "load" : "loads"} · saved{" "}
          {new Date(design.saved_at).toLocaleString(undefined, {
            dateStyle: "medium",
            timeStyle: "short",
          })}
        </span>
        <span className="relative -ml-2.5 flex">
          <Actions design={design} place={place} onDuplicate={() => void duplicate()} />
        </span>
      </p>
    </li>
  );
}

interface ActionsProps {
  design: Summary;
  place: DesignPlace;
  onDuplicate: () => void;
}

/** What can be done with a design where it is. */
function Actions({ design, place, onDuplicate }: ActionsProps) {
  const queries = useQueryClient();
  const { id, name } = design;
  const button = (word: string, act: () => void, className = "") => (
    <Button look="quiet" className={className} onClick={act} aria-label={`${word} ${name}`}>
      {word}
    </Button>
  );
  if (place === "deleted") {
    return button("Restore", () => void restoreDesign(id, name, queries));
  }
  return (
    <>
      {place === "current" ? button("Duplicate", onDuplicate) : null}
      {place === "current"
        ? button("Archive", () => void archiveDesign(id, name, queries))
        : button("Bring back", () => void bringBackDesign(id, name, queries))}
      {button("Delete", () => void removeDesign(id, name, queries), "text-stop")}
    </>
  );
}

function Says({ glance }: { glance: Glance }) {
  const look = glance.worst ? SEVERITIES[glance.worst.severity] : null;
  return (
    <>
      <p className="font-head font-semibold text-xl" data-part="lasts">
        {glance.lasts.charAt(0).toUpperCase() + glance.lasts.slice(1)}
      </p>
      {typeof glance.p10 === "number" && typeof glance.p90 === "number" ? (
        <p className="text-soft text-xs" data-part="band">
          likely {hours(glance.p10)} to {hours(glance.p90)}
        </p>
      ) : null}
      <p className="text-sm">{glance.then}</p>
      <p className={`text-sm ${glance.meets_goal ? "text-moss" : "text-fix"}`}>
        {glance.meets_goal ? "✓ Meets" : "▲ Short of"} the goal of {quantity(glance.goal_h, "h")}
      </p>
      {glance.worst && look ? (
        <p
          className={`line-clamp-2 text-sm ${look.colour.split(" ")[0]}`}
          data-worst={glance.worst.severity}
        >
          <span aria-hidden="true">{look.shape} </span>
          <strong>{look.word}.</strong> {glance.worst.title}
        </p>
      ) : (
        <p className="text-moss text-sm">✓ No problems found</p>
      )}
    </>
  );
}

/** Whether something has come into sight. */
function useSeen(of: React.RefObject<HTMLElement | null>): boolean {
  const [seen, setSeen] = useState(false);
  useEffect(() => {
    const here = of.current;
    if (!here || seen) return;
    const watch = new IntersectionObserver((entries) => {
      if (entries.some((entry) => entry.isIntersecting)) setSeen(true);
    });
    watch.observe(here);
    return () => watch.disconnect();
  }, [of, seen]);
  return seen;
}
