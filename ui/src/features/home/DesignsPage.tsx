import { useQuery, useQueryClient } from "@tanstack/react-query";
import { type ChangeEvent, useState } from "react";
import { Link, useNavigate } from "react-router";
import { api, Refused } from "../../api/client";
import type { ProblemDetails, Summary } from "../../api/types";
import { useNotice } from "../../lib/notice";
import { useTitle } from "../../lib/use-title";
import { Button } from "../../ui/Button";
import { DocLinks } from "../../ui/DocLinks";
import { JarMark } from "../../ui/JarMark";
import { Failed, Loading } from "../../ui/States";
import { removeDesign } from "./actions";

/** All designs: open, new, import, duplicate, delete. */
export function DesignsPage() {
  const designs = useQuery({ queryKey: ["designs"], queryFn: api.designs });
  const [refused, setRefused] = useState<{ file: string; problem: ProblemDetails } | null>(null);
  const queries = useQueryClient();
  const navigate = useNavigate();
  const notify = useNotice((state) => state.notify);
  useTitle("Designs");

  const create = async () => {
    try {
      const made = await api.create();
      await queries.invalidateQueries({ queryKey: ["designs"] });
      navigate(`/d/${made.id}/plan`);
    } catch (error) {
      notify(`Not made: ${(error as Error).message}`);
    }
  };
  const importFile = async (event: ChangeEvent<HTMLInputElement>) => {
    const file = event.target.files?.[0];
    event.target.value = "";
    if (!file) return;
    setRefused(null);
    try {
      const made = await api.importText(await file.text());
      await queries.invalidateQueries({ queryKey: ["designs"] });
      navigate(`/d/${made.id}/plan`);
    } catch (error) {
      if (error instanceof Refused) setRefused({ file: file.name, problem: error.problem });
      else notify(`Not imported: ${(error as Error).message}`);
    }
  };

  if (designs.isPending) return <Loading what="Fetching the designs" />;
  if (designs.isError) {
    return (
      <Failed
        title="The designs cannot be fetched"
        reason={designs.error.message}
        onRetry={() => void designs.refetch()}
      />
    );
  }
  return (
    <main className="mx-auto max-w-220 px-5 py-8">
      <h1 className="flex items-center gap-3 text-3xl">
        <JarMark /> Gravel Jar
      </h1>
      <p className="mt-1 text-soft">
        What must run, from which batteries, for how long, and what stops it first.
      </p>
      <div className="mt-5 flex flex-wrap items-center gap-3">
        <Button look="main" onClick={() => void create()}>
          New design
        </Button>
        <label className="inline-flex min-h-8 cursor-pointer items-center rounded border border-edge bg-card px-2.5 text-sm focus-within:outline-2 focus-within:outline-river hover:bg-river-wash">
          Import a JSON file
          <input
            type="file"
            accept=".json,application/json"
            className="sr-only"
            onChange={(event) => void importFile(event)}
          />
        </label>
        <Link to="/shelf" className="text-river text-sm underline">
          The shelf
        </Link>
        <a href="/api/docs" className="text-river text-sm underline">
          The API
        </a>
        <DocLinks />
      </div>
      {refused ? (
        <div role="alert" className="mt-4 rounded border border-stop p-3 text-sm">
          <p className="font-semibold text-stop">
            {refused.file} was not imported: {refused.problem.detail}
          </p>
          <ul className="mt-1 list-disc pl-5">
            {refused.problem.errors?.slice(0, 8).map((place) => (
              <li key={`${place.path}${place.message}`}>
                <code>{place.path.replace(/^\/document/, "") || "the document"}</code>{" "}
                {place.message}
              </li>
            ))}
          </ul>
        </div>
      ) : null}
      {designs.data.length ? (
        <ul className="mt-6 divide-y divide-line border-line border-y">
          {designs.data.map((design) => (
            <DesignLine key={design.id} design={design} />
          ))}
        </ul>
      ) : (
        <p className="mt-6 rounded border border-edge border-dashed p-5">
          No design yet. Start a new one, or stop the program and start it with{" "}
          <code>bin/start --demo</code> to look at some.
        </p>
      )}
    </main>
  );
}

function DesignLine({ design }: { design: Summary }) {
  const queries = useQueryClient();
  const notify = useNotice((state) => state.notify);
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
    <li className="flex flex-wrap items-center gap-x-4 py-2" data-design={design.name}>
      <Link
        to={`/d/${design.id}/plan`}
        className="min-w-60 flex-1 font-head font-semibold text-lg hover:text-river hover:underline"
      >
        {design.name}
      </Link>
      <span className="text-soft text-sm">
        {design.loads} loads · saved {new Date(design.saved_at).toLocaleString()}
      </span>
      <Button look="quiet" onClick={() => void duplicate()} aria-label={`Duplicate ${design.name}`}>
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
    </li>
  );
}
