import createClient from "openapi-fetch";
import { type Answer, readLines, taken } from "./answered";
import type { paths } from "./schema";

import type {
  Ask,
  BenchBook,
  BenchReading,
  Design,
  DesignPlace,
  DrawingRequest,
  DrawnRow,
  Have,
  LabelKind,
  LogLayout,
  LogLine,
  Now,
  PrintRequest,
  Quantity,
  Region,
  RoutesAsk,
  SearchBody,
  SearchLine,
  ShelfPart,
  Sweep,
} from "./types";

export { Conflict, Late, Refused, Unreachable } from "./answered";

/** How long an answer may take. A search has no end of its own: a person stops it. [ms] */
const DEADLINE_MS = 20_000;
const LONG_DEADLINE_MS = 90_000;
const LONG = /\/api\/(options|refill\/(balance|pairs)|shelf\/routes|course\.csv)/;
const ENDLESS = /\/api\/(options\/search|designs\/[^/]+\/logs\?.*)$/;

/** Fetch with a deadline of its own beside the caller's signal. */
function fetchInTime(request: Request): Promise<Response> {
  if (ENDLESS.test(request.url)) return fetch(request);
  const deadline = AbortSignal.timeout(LONG.test(request.url) ? LONG_DEADLINE_MS : DEADLINE_MS);
  return fetch(new Request(request, { signal: AbortSignal.any([request.signal, deadline]) }));
}

const client = createClient<paths>({ baseUrl: window.location.origin, fetch: fetchInTime });

const path = (id: string) => ({ params: { path: { design_id: id } } });

const revisionPath = (id: string, number: number) => ({
  params: { path: { design_id: id, number } },
});

const partPath = (id: string) => ({ params: { path: { part_id: id } } });

export const api = {
  reference: () => taken(client.GET("/api/reference")),
  /** A quick one has no band, and does not say what each fix would do. */
  evaluate: (design: Design, quick: boolean, signal: AbortSignal) =>
    taken(client.POST("/api/evaluate", { body: design, params: { query: { quick } }, signal })),
  /** The arithmetic behind every figure of a design. */
  workings: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/workings", { body: design, signal })),
  /** Ways to grow a station, by what is on the shelf. */
  routes: (design: Design, ask: RoutesAsk, signal: AbortSignal) =>
    taken(client.POST("/api/shelf/routes", { body: { design, grow: ask }, signal })),
  readLoad: (line: string, design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/read-load", { body: { line, design }, signal })),
  checklist: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/readings/checklist", { body: design, signal })),
  outlook: (design: Design, now: Now, signal: AbortSignal) =>
    taken(client.POST("/api/readings/outlook", { body: { design, now }, signal })),
  bothFigures: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/readings/figures", { body: design, signal })),
  effect: (design: Design, changed: Design, signal: AbortSignal) =>
    taken(client.POST("/api/readings/effect", { body: { design, changed }, signal })),
  lookAtLog: (head: string) => taken(client.POST("/api/logs/look", { body: { head } })),
  /** Read a logger's file in; each line of the answer is handed on, until the signal stops it. */
  readLogIn: async (
    id: string,
    about: { name: string; subject: string; layout: LogLayout; skip_bad: boolean },
    file: Blob,
    onLine: (line: LogLine) => void,
    signal: AbortSignal,
  ) => {
    const { name, subject, layout, skip_bad } = about;
    const stream = (await taken(
      client.POST("/api/designs/{design_id}/logs", {
        params: {
          path: { design_id: id },
          query: { name, subject, layout: JSON.stringify(layout), skip_bad },
        },
        body: file as unknown as string,
        bodySerializer: (body) => body as unknown as BodyInit,
        headers: { "Content-Type": "text/csv" },
        signal,
        parseAs: "stream",
      }) as unknown as Promise<Answer<ReadableStream<Uint8Array>>>,
    )) as ReadableStream<Uint8Array>;
    await readLines(stream, (text) => onLine(JSON.parse(text) as LogLine));
  },
  logs: (id: string) => taken(client.GET("/api/designs/{design_id}/logs", path(id))),
  logPicture: (id: string, log: string, points: number, signal: AbortSignal) =>
    taken(
      client.GET("/api/designs/{design_id}/logs/{log_id}/picture", {
        params: { path: { design_id: id, log_id: log }, query: { points } },
        signal,
      }),
    ),
  fitLog: (id: string, log: string, design: Design, signal: AbortSignal) =>
    taken(
      client.POST("/api/designs/{design_id}/logs/{log_id}/fit", {
        params: { path: { design_id: id, log_id: log } },
        body: design,
        signal,
      }),
    ),
  logCapacity: (id: string, log: string) =>
    taken(
      client.POST("/api/designs/{design_id}/logs/{log_id}/capacity", {
        params: { path: { design_id: id, log_id: log } },
      }),
    ),
  instruments: () => taken(client.GET("/api/instruments")),
  readInstrument: (name: string, quantities: Quantity[], signal: AbortSignal) =>
    taken(client.POST("/api/instruments/read", { body: { name, quantities }, signal })),
  recordedCapacity: (subject: string, rows: DrawnRow[]) =>
    taken(client.POST("/api/instruments/capacity", { body: { subject, air_c: 20, rows } })),
  planAgainstLog: (id: string, log: string, design: Design, signal: AbortSignal) =>
    taken(
      client.POST("/api/designs/{design_id}/logs/{log_id}/against", {
        params: { path: { design_id: id, log_id: log } },
        body: design,
        signal,
      }),
    ),
  removeLog: (id: string, log: string) =>
    taken(
      client.DELETE("/api/designs/{design_id}/logs/{log_id}", {
        params: { path: { design_id: id, log_id: log } },
      }),
    ),
  restoreLog: (id: string, log: string) =>
    taken(
      client.POST("/api/designs/{design_id}/logs/{log_id}/restore", {
        params: { path: { design_id: id, log_id: log } },
      }),
    ),
  bandCauses: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/readings/band-causes", { body: design, signal })),
  judgeReadings: (design: Design, readings: BenchReading[], signal: AbortSignal) =>
    taken(client.POST("/api/readings/judge", { body: { design, readings }, signal })),
  readings: (id: string) => taken(client.GET("/api/designs/{design_id}/readings", path(id))),
  addReading: (id: string, reading: BenchReading) =>
    taken(client.POST("/api/designs/{design_id}/readings", { ...path(id), body: { reading } })),
  changeReading: (design_id: string, reading_id: string, reading: BenchReading) =>
    taken(
      client.PUT("/api/designs/{design_id}/readings/{reading_id}", {
        params: { path: { design_id, reading_id } },
        body: { reading },
      }),
    ),
  keepPicture: (design_id: string, reading_id: string, picture: Blob) =>
    taken(
      client.PUT("/api/designs/{design_id}/readings/{reading_id}/picture", {
        params: { path: { design_id, reading_id } },
        body: picture as unknown as string,
        bodySerializer: (body) => body as unknown as BodyInit,
        headers: { "Content-Type": picture.type || "application/octet-stream" },
      }),
    ),
  removePicture: (design_id: string, reading_id: string) =>
    taken(
      client.DELETE("/api/designs/{design_id}/readings/{reading_id}/picture", {
        params: { path: { design_id, reading_id } },
      }),
    ),
  importBenchBook: (id: string, book: BenchBook) =>
    taken(client.POST("/api/designs/{design_id}/bench-book", { ...path(id), body: book })),
  removeReading: (design_id: string, reading_id: string) =>
    taken(
      client.DELETE("/api/designs/{design_id}/readings/{reading_id}", {
        params: { path: { design_id, reading_id } },
      }),
    ),
  restoreReading: (design_id: string, reading_id: string) =>
    taken(
      client.POST("/api/designs/{design_id}/readings/{reading_id}/restore", {
        params: { path: { design_id, reading_id } },
      }),
    ),
  readGoal: (line: string, design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/read-goal", { body: { line, design }, signal })),
  readLabel: (text: string, kind: LabelKind, signal: AbortSignal) =>
    taken(client.POST("/api/read-label", { body: { text, kind }, signal })),
  build: (design: Design, ask: Ask, signal?: AbortSignal) =>
    taken(client.POST("/api/build", { body: { design, ask }, ...(signal ? { signal } : {}) })),
  places: (design: Design, loads: string[], signal: AbortSignal) =>
    taken(client.POST("/api/places", { body: { design, loads }, signal })),
  course: (design: Design, until: number | null, signal: AbortSignal) =>
    taken(client.POST("/api/course", { body: { design, until_h: until }, signal })),
  /** A week of a design: what comes in, what goes out, how full it is. */
  refill: (design: Design, fillFrom: number, signal: AbortSignal) =>
    taken(client.POST("/api/refill", { body: { design, fill_from: fillFrom }, signal })),
  /** The week in every month; none if no sun shines on it. */
  year: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/refill/year", { body: design, signal })),
  /** An outage of the mains of so many hours; null where the mains feeds nothing. */
  outage: (design: Design, hours: number, signal: AbortSignal) =>
    taken(client.POST("/api/refill/outage", { body: { design, hours }, signal })),
  /** Numbers of batteries and panels that balance the week. */
  pairs: (design: Design, poor: boolean, signal: AbortSignal) =>
    taken(client.POST("/api/refill/pairs", { body: { design, poor }, signal })),
  /** Sun hours by month on panels at a place; without a clearness by the usual one. */
  sunPlace: (
    latitude: number,
    tilt: number,
    azimuth: number,
    clearness: number[] | null,
    signal: AbortSignal,
  ) =>
    taken(client.POST("/api/sun/place", { body: { latitude, tilt, azimuth, clearness }, signal })),
  sunFile: (text: string, latitude: number, tilt: number, azimuth: number, signal: AbortSignal) =>
    taken(client.POST("/api/sun/file", { body: { text, latitude, tilt, azimuth }, signal })),
  /** Single changes that balance the week. */
  balance: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/refill/balance", { body: design, signal })),
  courseCsv: (design: Design, until: number | null) =>
    taken(
      client.POST("/api/course.csv", { body: { design, until_h: until }, parseAs: "text" }),
    ) as Promise<string>,
  /** Every cable run of a design, and the figures of the runs. */
  needed: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/needed", { body: design, signal })),
  cables: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/cables", { body: design, signal })),
  /** Every cable run by each school's ampacity table. */
  schools: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/cables/schools", { body: design, signal })),
  cablesCsv: (design: Design, what: "runs" | "joints" | "cuts") =>
    taken(
      client.POST("/api/cables.csv", {
        body: design,
        params: { query: { what } },
        parseAs: "text",
      }),
    ) as Promise<string>,
  /** The fewest changes that clear every stop and fix. */
  mend: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/options/mend", { body: design, signal })),
  levers: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/options/levers", { body: design, signal })),
  /** Hours against one thing. */
  sweep: (design: Design, against: Sweep["against"], signal: AbortSignal) =>
    taken(
      client.POST("/api/options/sweeps", { body: design, params: { query: { against } }, signal }),
    ),
  /** Somebody looks at the options: the workers of a search begin. */
  wake: () => taken(client.POST("/api/options/wake")),
  /** The schools of the trade as variants of a design. */
  variants: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/options/variants", { body: design, signal })),
  /** Designs in columns, with the prices of the shelf. */
  sides: (designs: Design[], signal: AbortSignal) =>
    taken(client.POST("/api/options/sides", { body: { designs }, signal })),
  /** Size whole systems; each line is handed on as it comes, until the signal stops it. */
  search: async (body: SearchBody, onLine: (line: SearchLine) => void, signal: AbortSignal) => {
    const stream = (await taken(
      client.POST("/api/options/search", { body, signal, parseAs: "stream" }) as Promise<
        Answer<ReadableStream<Uint8Array>>
      >,
    )) as ReadableStream<Uint8Array>;
    await readLines(stream, (text) => onLine(JSON.parse(text) as SearchLine));
  },
  shelf: () => taken(client.GET("/api/shelf")),
  addParts: (parts: ShelfPart[]) => taken(client.POST("/api/shelf", { body: { parts } })),
  savePart: (id: string, base: number, part: ShelfPart) =>
    taken(client.PUT("/api/shelf/parts/{part_id}", { ...partPath(id), body: { base, part } })),
  removePart: (id: string) => taken(client.DELETE("/api/shelf/parts/{part_id}", partPath(id))),
  restorePart: (id: string) =>
    taken(client.POST("/api/shelf/parts/{part_id}/restore", partPath(id))),
  withMeasured: (part: ShelfPart, figures: Record<string, unknown>) =>
    taken(client.POST("/api/shelf/measured", { body: { part, figures } })),
  sheet: (design: Design, signal: AbortSignal) =>
    taken(client.POST("/api/sheet", { body: design, signal })),
  /** The sheet as a file to print. */
  printSheet: (asked: PrintRequest) =>
    taken(
      client.POST("/api/sheet/print", { body: asked, parseAs: "blob" }) as Promise<Answer<Blob>>,
    ),
  /** The drawing as a picture of its own. */
  drawing: (asked: DrawingRequest) =>
    taken(
      client.POST("/api/sheet/drawing", { body: asked, parseAs: "blob" }) as Promise<Answer<Blob>>,
    ),
  copiesOf: (part_id: string) =>
    taken(client.GET("/api/shelf/parts/{part_id}/copies", { params: { path: { part_id } } })),
  readCsv: (text: string) => taken(client.POST("/api/shelf/read-csv", { body: { text } })),
  suits: (design: Design, subject: string, signal: AbortSignal) =>
    taken(client.POST("/api/shelf/suits", { body: { design, subject }, signal })),
  designs: (place: DesignPlace = "current", skip = 0) =>
    taken(client.GET("/api/designs", { params: { query: { place, skip } } })),
  archive: (id: string) => taken(client.POST("/api/designs/{design_id}/archive", path(id))),
  bringBack: (id: string) => taken(client.POST("/api/designs/{design_id}/bring-back", path(id))),
  tag: (id: string, tags: string[]) =>
    taken(client.PUT("/api/designs/{design_id}/tags", { ...path(id), body: { tags } })),
  design: (id: string) => taken(client.GET("/api/designs/{design_id}", path(id))),
  /** A new design from what somebody has. */
  begin: (have: Have, region: Region) =>
    taken(client.POST("/api/designs/begin", { body: { have, region } })),
  examples: () => taken(client.GET("/api/examples")),
  openExample: (key: string) =>
    taken(client.POST("/api/examples/{key}", { params: { path: { key } } })),
  /** A design as the list of all shows it. */
  glance: (id: string, signal: AbortSignal) =>
    taken(
      client.GET("/api/designs/{design_id}/glance", {
        params: { path: { design_id: id } },
        signal,
      }),
    ),
  create: (document?: Design) =>
    taken(client.POST("/api/designs", { body: (document ? { document } : {}) as never })),
  /** A file as it is: the server says what is wrong with it, and where. */
  /** Keep what a file holds: a design, or one that was handed on with its parts. */
  importText: async (text: string): Promise<{ id: string; newParts: number }> => {
    if (/"format"\s*:\s*"gravel-jar\/shared-design"/.test(text)) {
      const taken_in = await taken(
        client.POST("/api/shared-design/take-in", {
          body: text as never,
          bodySerializer: (body) => String(body),
        }),
      );
      return { id: taken_in.design.id, newParts: taken_in.new_parts };
    }
    const stored = await taken(
      client.POST("/api/designs", {
        body: text as never,
        bodySerializer: (body) => `{"document":${String(body)}}`,
      }),
    );
    return { id: stored.id, newParts: 0 };
  },
  /** A design with its parts of the shelf, to hand on. */
  share: (design: Design, prices: boolean) =>
    taken(client.POST("/api/shared-design", { body: { design, prices } })),
  save: (id: string, base: number, document: Design) =>
    taken(client.PUT("/api/designs/{design_id}", { ...path(id), body: { base, document } })),
  /** What differs between two documents, in words. */
  changes: (before: Design, after: Design, signal: AbortSignal) =>
    taken(client.POST("/api/changes", { body: { before, after }, signal })),
  revisions: (id: string, before: number | null, count: number) =>
    taken(
      client.GET("/api/designs/{design_id}/revisions", {
        params: { path: { design_id: id }, query: { before, count } },
      }),
    ),
  revision: (id: string, number: number) =>
    taken(client.GET("/api/designs/{design_id}/revisions/{number}", revisionPath(id, number))),
  nameRevision: (id: string, number: number, name: string) =>
    taken(
      client.PUT("/api/designs/{design_id}/revisions/{number}/name", {
        ...revisionPath(id, number),
        body: { name },
      }),
    ),
  remove: (id: string) => taken(client.DELETE("/api/designs/{design_id}", path(id))),
  restore: (id: string) => taken(client.POST("/api/designs/{design_id}/restore", path(id))),
};
