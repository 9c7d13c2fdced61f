import createClient from "openapi-fetch";

import type { components, paths } from "./schema";

type Schemas = components["schemas"];
export type PackView = Schemas["PackView"];
export type PackName = Schemas["PackName"];
export type ProofView = Schemas["ProofView"];
export type LineView = Schemas["LineView"];
export type FigureCell = Schemas["FigureCell"];
export type CheckView = Schemas["CheckView"];
export type FigureView = Schemas["FigureView"];
export type WordView = Schemas["WordView"];
export type FootingView = Schemas["FootingView"];
export type ChangeView = Schemas["ChangeView"];
export type Outcome = Schemas["Outcome"];
export type Change = Schemas["ChangeRequest"]["change"];
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

function isProblem(error: unknown): error is Problem {
  return typeof error === "object" && error !== null && "title" in error && "status" in error;
}

/** The data of an answer, or the refusal thrown. */
export async function taken<T>(answer: Promise<{ data?: T; error?: unknown }>): Promise<T> {
  let got: { data?: T; error?: unknown };
  try {
    got = await answer;
  } catch {
    throw new Refusal({
      type: "urn:humble-sum:problem:unreachable",
      title: "Humble Sum does not answer",
      status: 0,
      detail: "Humble Sum does not answer. Start it again; nothing kept is lost.",
      faults: [],
    });
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
export type SourceColumn = Schemas["SourceColumnView"];
export type Acceptance = Schemas["Acceptance"];

/** Take in one source as it is; `into` adds it to an intake already at hand. */
export async function takeSource(file: File, into: string | null): Promise<IntakeView> {
  const query = new URLSearchParams({ name: file.name, ...(into ? { into } : {}) });
  const sent = fetch(`/api/intakes?${query.toString()}`, {
    method: "POST",
    headers: { "Content-Type": "application/octet-stream" },
    body: file,
  });
  return taken(
    sent.then(async (response) => {
      const body: unknown = await response.json();
      return response.ok ? { data: body as IntakeView } : { error: body };
    }),
  );
}
