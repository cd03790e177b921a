import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";
import { Link } from "react-router";
import { api } from "../../api/client";
import type { Glance, Summary } from "../../api/types";
import { quantity } from "../../lib/format";
import { useNotice } from "../../lib/notice";
import { SEVERITIES } from "../../pictures/severities";
import { Button } from "../../ui/Button";
import { JarPicture } from "../../verdict/JarPicture";
import { removeDesign } from "./actions";

/** A design at a glance: its jar, how long, what stops first, the worst finding. */
export function DesignCard({ design }: { design: Summary }) {
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
  const card = useRef<HTMLLIElement>(null);
  const seen = useSeen(card);
  // Worked out only once it comes into sight: there may be hundreds.
  const { data, error } = useQuery({
    queryKey: ["glance", design.id, design.revision],
    queryFn: ({ signal }) => api.glance(design.id, signal),
    enabled: seen,
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
      className="relative flex min-h-44 flex-col rounded-lg border border-edge bg-card p-3 hover:border-river"
      data-design={design.name}
    >
      <div className="flex gap-3">
        <div className="w-20 shrink-0">
          {data?.jar ? <JarPicture jar={data.jar} order={data.order} small /> : null}
        </div>
        <div className="min-w-0 flex-1">
          <Link
            to={`/d/${design.id}/plan`}
            className="font-head font-semibold text-lg leading-tight after:absolute after:inset-0 hover:text-river"
          >
            {design.name}
          </Link>
          {data ? <Says glance={data} /> : null}
          {error ? <p className="text-sm text-soft">{error.message}</p> : null}
          {data || error ? null : <p className="text-sm text-soft">Working it out …</p>}
        </div>
      </div>
      <p className="mt-auto flex flex-wrap items-center gap-x-2 pt-2 text-soft text-xs">
        <span className="flex-1">
          {data?.stores.join(", ")}
          {data?.stores.length ? " · " : ""}
          {design.loads} {design.loads === 1 ? "load" : "loads"} · saved{" "}
          {new Date(design.saved_at).toLocaleString(undefined, {
            dateStyle: "medium",
            timeStyle: "short",
          })}
        </span>
        <span className="relative flex">
          <Button
            look="quiet"
            onClick={() => void duplicate()}
            aria-label={`Duplicate ${design.name}`}
          >
            Duplicate
          </Button>
          <Button
            look="quiet"
            className="text-stop"
            onClick={() => void removeDesign(design.id, design.name, queries)}
            aria-label={`Delete ${design.name}`}
          >
            Delete
          </Button>
        </span>
      </p>
    </li>
  );
}

function Says({ glance }: { glance: Glance }) {
  const look = glance.worst ? SEVERITIES[glance.worst.severity] : null;
  return (
    <>
      <p className="font-head font-semibold text-xl" data-part="lasts">
        {glance.lasts.charAt(0).toUpperCase() + glance.lasts.slice(1)}
      </p>
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
