import { keepPreviousData, useInfiniteQuery, useQueryClient } from "@tanstack/react-query";
import { type ChangeEvent, useEffect, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api } from "../../api/client";
import type { DesignPlace, ProblemDetails } from "../../api/types";
import { useNotice } from "../../lib/notice";
import { useTitle } from "../../lib/use-title";
import { Button } from "../../ui/Button";
import { Choose } from "../../ui/Choose";
import { DocLinks } from "../../ui/DocLinks";
import { JarMark } from "../../ui/JarMark";
import { Failed, Loading } from "../../ui/States";
import { BeginDialog } from "./BeginDialog";
import { BeginPicture } from "./BeginPicture";
import { BEGINNINGS, type Beginning } from "./beginnings";
import { DesignCard } from "./DesignCard";
import { importDesign, useRefusal } from "./import-design";

type Order = "saved" | "name";

/** What have you got? And all designs: open, search, import, duplicate, delete. */
export function DesignsPage() {
  const refused = useRefusal((state) => state.refused);
  const [begins, setBegins] = useState<Beginning["kind"] | null>(null);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const notify = useNotice((state) => state.notify);
  useTitle("Designs");
  useEffect(() => () => useRefusal.setState({ refused: null }), []);

  const open = async (id: string) => {
    await queries.invalidateQueries({ queryKey: ["designs"] });
    navigate(`/d/${id}/plan`);
  };
  const begun = async (id: string, kind: Beginning["kind"]) => {
    await open(id);
    if (kind === "nothing") {
      notify("Add what has to run. Then Options, “Size it for me”, finds what it takes.");
    }
  };
  const create = async () => {
    try {
      await open((await api.create()).id);
    } catch (error) {
      notify(`Not made: ${(error as Error).message}`);
    }
  };
  const chosen = (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (file) void importDesign(file, queries, navigate);
  };

  return (
    <main className="mx-auto min-h-dvh max-w-300 px-5 py-5">
      <header className="flex flex-wrap items-center gap-x-5 gap-y-1">
        <h1 className="flex items-center gap-3 text-2xl">
          <JarMark /> Gravel Jar
        </h1>
        <nav className="flex flex-wrap items-center gap-x-4 text-sm" aria-label="Elsewhere">
          <Link to="/shelf" className="text-river underline">
            The shelf
          </Link>
          <a href="/api/docs" className="text-river underline">
            The API
          </a>
          <DocLinks />
        </nav>
      </header>
      <h2 className="mt-5 text-2xl">What have you got?</h2>
      <p className="text-soft text-sm">
        Each way begins with what is on the label in your hand.{" "}
        <button
          type="button"
          className="text-river underline"
          onClick={() => void create()}
          data-part="skip"
        >
          Or begin with an empty design
        </button>
        .
      </p>
      <ul className="mt-2 grid grid-cols-2 gap-2 sm:grid-cols-4 xl:grid-cols-8" data-part="begin">
        {BEGINNINGS.map((one) => (
          <li key={one.kind}>
            <button
              type="button"
              className="flex h-full w-full flex-col items-start rounded-lg border border-edge bg-card p-2.5 text-left hover:border-river hover:bg-river-wash"
              onClick={() => setBegins(one.kind)}
              data-begin={one.kind}
            >
              <BeginPicture kind={one.kind} />
              <span className="mt-2 font-semibold text-sm leading-tight">{one.title}</span>
              <span className="text-soft text-xs">{one.hint}</span>
            </button>
          </li>
        ))}
      </ul>
      {refused ? <NotImported {...refused} /> : null}
      <Designs onFile={chosen} />
      {begins ? <BeginDialog kind={begins} onClose={() => setBegins(null)} onOpen={begun} /> : null}
    </main>
  );
}

function NotImported({ file, problem }: { file: string; problem: ProblemDetails }) {
  return (
    <div role="alert" className="mt-4 rounded border border-stop p-3 text-sm">
      <p className="font-semibold text-stop">
        {file} was not imported: {problem.detail}
      </p>
      <ul className="mt-1 list-disc pl-5">
        {problem.errors?.slice(0, 8).map((place) => (
          <li key={`${place.path}${place.message}`}>
            <code>{place.path.replace(/^\/document/, "") || "the document"}</code> {place.message}
          </li>
        ))}
      </ul>
    </div>
  );
}

/** Designs that the server gives at a time. */
const LISTED = 1000;

const NONE: Record<DesignPlace, string> = {
  current: "No design yet. Choose what you have got above, or open an example.",
  archived: "No design is archived.",
  deleted: "No design is deleted.",
};

interface DesignsProps {
  onFile: (event: ChangeEvent<HTMLInputElement>) => void;
}

/** Cards of all designs, those that a search leaves, in an order. */
function Designs({ onFile }: DesignsProps) {
  const [place, setPlace] = useState<DesignPlace>("current");
  const listed = useInfiniteQuery({
    queryKey: ["designs", place],
    queryFn: ({ pageParam }) => api.designs(place, pageParam),
    initialPageParam: 0,
    getNextPageParam: (last, pages) => (last.length === LISTED ? pages.length * LISTED : undefined),
    placeholderData: keepPreviousData,
  });
  const [wanted, setWanted] = useState("");
  const [order, setOrder] = useState<Order>("saved");
  const words = wanted.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const designs = listed.data?.pages.flat() ?? [];
  const shown = designs.filter((design) => {
    const said = [design.name, ...design.tags].join("\n").toLocaleLowerCase();
    return words.every((word) => said.includes(word));
  });
  if (listed.isPending) return <Loading what="Fetching the designs" />;
  if (listed.isError) {
    return (
      <Failed
        within
        title="The designs cannot be fetched"
        reason={listed.error.message}
        onRetry={() => void listed.refetch()}
      />
    );
  }
  if (order === "name") shown.sort((a, b) => a.name.localeCompare(b.name));
  return (
    <>
      <div className="mt-6 flex flex-wrap items-center gap-x-4 gap-y-2">
        <h2 className="text-2xl">Your designs</h2>
        <input
          type="search"
          className="field w-56"
          placeholder="search by name or tag"
          aria-label="Search designs"
          value={wanted}
          onChange={(event) => setWanted(event.target.value)}
        />
        <Choose<Order>
          label="Order of the designs"
          value={order}
          options={[
            ["saved", "last saved first"],
            ["name", "by name"],
          ]}
          onChange={setOrder}
        />
        <Choose<DesignPlace>
          label="Which designs"
          value={place}
          options={[
            ["current", "at hand"],
            ["archived", "archived"],
            ["deleted", "deleted"],
          ]}
          onChange={setPlace}
        />
        <label className="inline-flex min-h-8 cursor-pointer items-center rounded border border-edge bg-card px-2.5 text-sm focus-within:outline-2 focus-within:outline-river hover:bg-river-wash">
          Import a JSON file
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={onFile}
          />
        </label>
        <span className="text-soft text-xs">or drop one anywhere here</span>
        <a href="/api/backup" download className="ml-auto text-river text-sm underline">
          Export everything
        </a>
      </div>
      {shown.length ? (
        <ul
          className="mt-3 grid grid-cols-1 gap-3 sm:grid-cols-2 lg:grid-cols-3"
          data-part="designs"
        >
          {shown.map((design) => (
            <DesignCard key={design.id} design={design} place={place} onFind={setWanted} />
          ))}
        </ul>
      ) : (
        <p className="mt-4 rounded border border-edge border-dashed p-5" data-part="no-designs">
          {designs.length ? (
            <>
              No design has “{wanted}” in its name or tags.{" "}
              <Button look="quiet" onClick={() => setWanted("")}>
                Show all
              </Button>
            </>
          ) : (
            NONE[place]
          )}
        </p>
      )}
      {listed.hasNextPage ? (
        <p className="mt-3">
          <Button onClick={() => void listed.fetchNextPage()} disabled={listed.isFetchingNextPage}>
            Show more
          </Button>
        </p>
      ) : null}
    </>
  );
}
