import createClient from "openapi-fetch";
import type { Readable, Writable } from "openapi-typescript-helpers";

import type { components, paths } from "./schema";
import { answered, refused } from "./outages";

type Schemas = Readable<components["schemas"]>;
export type PackView = Schemas["PackView"];
export type CommandView = Schemas["CommandView"];
export type FormatView = Schemas["FormatView"];
export type FormatsView = Schemas["FormatsView"];
export type PackName = Schemas["PackName"];
export type ProofView = Schemas["ProofView"];
export type ColumnView = Schemas["ColumnView"];
export type LineView = Schemas["LineView"];
export type FigureCell = Schemas["FigureCell"];
export type CheckView = Schemas["CheckView"];
export type FigureView = Schemas["FigureView"];
export type TiedView = Schemas["TiedView"];
export type WordView = Schemas["WordView"];
export type FoundView = Schemas["FoundView"];
export type ChangeView = Schemas["ChangeView"];
export type Outcome = Schemas["Outcome"];
export type Change = Writable<components["schemas"]["ChangeRequest"]["change"]>;
export type Foot = Extract<Change, { kind: "foot" }>;
export type SentenceView = FigureView["sentence"];
export type EditionView = Schemas["EditionView"];
export type BesideView = Schemas["BesideView"];
export type DashboardView = Schemas["DashboardView"];
export type ItemView = DashboardView["items"][number];
export type TileView = Schemas["TileView"];
export type ChartView = Schemas["ChartView"];
export type PassageView = Schemas["PassageView"];
export type PieceView = Schemas["PieceView"];
export type PrintedView = Schemas["PrintedView"];
export type AgreementView = Schemas["AgreementView"];
export type FindingView = Schemas["FindingView"];
export type IssuePage = Schemas["IssuePageView"];
export type IssueState = Writable<components["schemas"]["IssueRequest"]>["state"];
export type LastCheck = IssuePage["checks"][number];
export type Since = Schemas["SinceView"];
export type HouseStylesView = Schemas["HouseStylesView"];
export type TakenView = Schemas["TakenView"];
export type GroupLine = Schemas["GroupLine"];
export type GroupView = Schemas["GroupView"];
export type DocumentView = Schemas["DocumentView"];
export type DocumentName = Schemas["DocumentName"];
export type NumberView = Schemas["NumberView"];
export type ReviewView = Schemas["ReviewView"];
export type PointView = Schemas["ReviewPointView"];
export type SignatureView = Schemas["SignatureView"];
export type Subject = Writable<components["schemas"]["Subject"]>;
export type Problem = Schemas["Problem"];
export type Apply = Schemas["ReachView"]["apply"];

/** A refusal by the server: problem details, as RFC 9457 has them. */
export class Refusal extends Error {
  readonly problem: Problem;

  constructor(problem: Problem) {
    super(problem.detail || problem.title);
    this.problem = problem;
  }

  get kind(): string {
    return this.problem.type.split(":").at(-1) ?? "";
  }
}

export const api = createClient<paths>({ baseUrl: "" });

const UNREACHABLE: Problem = {
  type: "urn:humble-sum:problem:unreachable",
  title: "Humble Sum does not answer",
  status: 0,
  detail: "Humble Sum does not answer. Start it again; nothing kept is lost.",
  faults: [],
};

const AUTHOR = "humble-sum-author";

/** The name put to changes made at this desk; none until one is given. */
export function author(): string {
  return localStorage.getItem(AUTHOR) ?? "";
}

export function setAuthor(name: string): void {
  localStorage.setItem(AUTHOR, name.trim());
}

api.use({
  onRequest({ request }) {
    if (author()) request.headers.set("Humble-Author", encodeURIComponent(author()));
  },
  async onResponse({ request, response }) {
    if (response.ok || response.status === 304) answered(request.method);
    else if (response.status === 503 || response.status === 507) {
      const said: unknown = await response.clone().json();
      if (isProblem(said)) refused(said, request.method);
    }
  },
  onError({ request, error }) {
    const left = error instanceof DOMException && error.name === "AbortError";
    if (!left) refused(UNREACHABLE, request.method);
  },
});

function isProblem(error: unknown): error is Problem {
  return typeof error === "object" && error !== null && "title" in error && "status" in error;
}

/** The data of an answer, or the refusal thrown. */
export async function taken<T>(answer: Promise<{ data?: T; error?: unknown }>): Promise<T> {
  let got: { data?: T; error?: unknown };
  try {
    got = await answer;
  } catch (error) {
    if (error instanceof DOMException && error.name === "AbortError") throw error;
    throw new Refusal(UNREACHABLE);
  }
  if (got.data !== undefined) return got.data;
  const { error } = got;
  throw new Refusal(
    isProblem(error)
      ? error
      : { type: "about:blank", title: "Something went wrong", status: 500, detail: "", faults: [] },
  );
}

/** Take in a pack file as it is, so that its numbers stay as they were written. */
export async function takePack(file: File): Promise<PackView> {
  const sent = fetch("/api/packs", {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: file,
  });
  return taken(
    sent.then(async (response) => {
      const body: unknown = await response.json();
      return response.ok ? { data: body as PackView } : { error: body };
    }),
  );
}

export type IntakeView = Schemas["IntakeView"];
export type DraftView = Schemas["DraftView"];
export type ToldView = DraftView["sentence"];
export type Acceptance = Writable<components["schemas"]["Acceptance"]>;

export type RulebookView = Schemas["RulebookView"];
export type RuleView = Schemas["RuleView"];
export type FootingPageView = Schemas["FootingPageView"];
export type ChangedView = Schemas["ChangedView"];
export type TrialView = Schemas["TrialView"];
export type Forward = Writable<components["schemas"]["Forward"]>;
export type ComparisonView = Schemas["ComparisonView"];

/** How far long work has come. */
export interface Progress {
  done: number;
  total: number;
  says: string;
}

/**
 * Take in one source as it is, following its progress; `into` adds it to an intake already at
 * hand, or takes it again there. Aborting stops the reading on the server, and nothing is kept.
 */
export function takeSource(
  file: File,
  how: { name: string; into?: string; again?: "true"; query?: string },
  stop: AbortSignal,
  onProgress: (progress: Progress) => void,
): Promise<IntakeView> {
  const query = new URLSearchParams(how);
  const sent = fetch(`/api/intakes/streamed?${query.toString()}`, {
    method: "POST",
    headers: { "Content-Type": "application/octet-stream" },
    body: file,
    signal: stop,
  });
  return followed(sent, "intake", onProgress);
}

type PolicyRequest = Writable<components["schemas"]["PolicyRequest"]>;

/** What the footing screen shows by these plans, following the search. Aborting ends it. */
export function planFooting(
  pack: string,
  plans: PolicyRequest,
  stop: AbortSignal,
  onProgress: (progress: Progress) => void,
): Promise<FootingPageView> {
  const sent = fetch(`/api/packs/${encodeURIComponent(pack)}/footing/streamed`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(plans),
    signal: stop,
  });
  return followed(sent, "footing", onProgress);
}

type IssueRequest = Writable<components["schemas"]["IssueRequest"]>;
export type IssuedView = Schemas["IssuedView"];

/** Issue an edition, following its files. Aborting stops it after the file in hand, and nothing is kept. */
export function issueEdition(
  pack: string,
  body: IssueRequest,
  stop: AbortSignal,
  onProgress: (progress: Progress) => void,
): Promise<IssuedView> {
  const sent = fetch(`/api/packs/${encodeURIComponent(pack)}/issues/streamed`, {
    method: "POST",
    headers: { "Content-Type": "application/json" },
    body: JSON.stringify(body),
    signal: stop,
  });
  return followed(sent, "issued", onProgress);
}

interface Told extends Partial<Progress> {
  intake?: IntakeView;
  footing?: FootingPageView;
  issued?: IssuedView;
  problem?: Problem;
}

/** The result of work that is answered line by line. */
function followed<Name extends "intake" | "footing" | "issued">(
  sent: Promise<Response>,
  name: Name,
  onProgress: (progress: Progress) => void,
): Promise<NonNullable<Told[Name]>> {
  return taken(
    sent.then(async (response) => {
      if (!response.ok || !response.body) return { error: (await response.json()) as unknown };
      for await (const told of lines(response.body)) {
        const result = told[name];
        if (result) return { data: result };
        if (told.problem) return { error: told.problem };
        onProgress({ done: told.done ?? 0, total: told.total ?? 0, says: told.says ?? "" });
      }
      return { error: undefined };
    }),
  );
}

/** Lines of JSON as they come. */
async function* lines(body: ReadableStream<Uint8Array>): AsyncGenerator<Told> {
  const reader = body.getReader();
  const decoder = new TextDecoder();
  let text = "";
  for (;;) {
    const { value, done } = await reader.read();
    text += decoder.decode(value, { stream: !done });
    const complete = text.split("\n");
    text = complete.pop() ?? "";
    for (const line of complete) yield JSON.parse(line) as Told;
    if (done) return;
  }
}

/** Take in a document as it is: it is read, judged and kept, in the place of one of the same name. */
export async function takeDocument(pack: string, file: File): Promise<DocumentView> {
  const query = new URLSearchParams({ name: file.name });
  const sent = fetch(`/api/packs/${encodeURIComponent(pack)}/documents?${query.toString()}`, {
    method: "POST",
    headers: { "Content-Type": "application/octet-stream", "Humble-Author": encodeURIComponent(author()) },
    body: file,
  });
  return taken(
    sent.then(async (response) => {
      const body: unknown = await response.json();
      return response.ok ? { data: body as DocumentView } : { error: body };
    }),
  );
}
