/** A server for tests of the seams: it keeps one revision of each design, and can fail on demand. */

import { HttpResponse, http } from "msw";
import { setupServer } from "msw/node";
import type { Design, Stored } from "../api/types";

export const design = (name: string, ids: readonly string[] = ["lamp", "fan"]): Design =>
  ({
    name,
    stores: [{ id: "bank", kind: "bank", name: "Bank" }],
    stages: [],
    links: [],
    loads: ids.map((id) => ({ id, name: id, rail: "bank", count: 1 })),
  }) as unknown as Design;

const problem = (status: number, code: string, more: object = {}) =>
  HttpResponse.json(
    { code, status, detail: code.replaceAll("_", " "), title: code, ...more },
    { status },
  );

/** What the server has, and how it behaves. */
export class Kept {
  readonly designs = new Map<string, Stored>();
  readonly saves: { id: string; base: number; document: Design }[] = [];
  /** What was to be evaluated, in its order. */
  readonly evaluated: { name: string; quick: boolean }[] = [];
  /** What nobody waited for any more, by its name. */
  readonly givenUp: string[] = [];
  /** What it does to the next requests, one each; then it works. */
  readonly faults: ("away" | "broken" | "refuses")[] = [];
  /** Requests wait for this. */
  gate: Promise<void> = Promise.resolve();
  /** Whole evaluations wait for this too. */
  wholeGate: Promise<void> = Promise.resolve();

  put(id: string, document: Design, revision = 1): Stored {
    const stored = { id, revision, saved_at: "2026-01-01T12:00:00Z", document } as Stored;
    this.designs.set(id, stored);
    return stored;
  }

  /** Hold requests back until the function that is given back is called. */
  hold(): () => void {
    let release: () => void = () => undefined;
    this.gate = new Promise((resolve) => {
      release = resolve;
    });
    return release;
  }

  async failing() {
    await this.gate;
    const fault = this.faults.shift();
    if (fault === "away") return HttpResponse.error();
    if (fault === "broken") return problem(500, "internal");
    if (fault === "refuses") return problem(422, "invalid_document", { errors: [] });
    return null;
  }
}

export const kept = new Kept();

export const server = setupServer(
  http.put("*/api/designs/:id", async ({ params, request }) => {
    const body = (await request.json()) as { base: number; document: Design };
    const failed = await kept.failing();
    if (failed) return failed;
    const id = String(params.id);
    const now = kept.designs.get(id);
    if (!now) return problem(404, "design_not_found");
    if (now.revision !== body.base) return problem(409, "stale_revision", { current: now });
    kept.saves.push({ id, ...body });
    return HttpResponse.json(kept.put(id, body.document, body.base + 1));
  }),
  http.get("*/api/designs/:id", async ({ params }) => {
    const stored = kept.designs.get(String(params.id));
    return stored ? HttpResponse.json(stored) : problem(404, "design_not_found");
  }),
  http.post("*/api/evaluate", async ({ request }) => {
    const document = (await request.json()) as Design;
    const quick = new URL(request.url).searchParams.get("quick") === "true";
    kept.evaluated.push({ name: document.name, quick });
    request.signal.addEventListener("abort", () => kept.givenUp.push(document.name));
    if (!quick) await kept.wholeGate;
    const failed = await kept.failing();
    return failed ?? HttpResponse.json({ of: document.name, quick });
  }),
);
