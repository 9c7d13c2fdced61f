/** What each answer of the server is kept under. Whatever a change of a pack makes old begins alike. */
export const keys = {
  session: () => ["session"] as const,
  packs: () => ["packs"] as const,
  formats: () => ["formats"] as const,
  commands: () => ["commands"] as const,
  pack: (pack: string) => ["pack", pack] as const,
  history: (pack: string, figure: string, rule: string) => ["history", pack, figure, rule] as const,
  histories: (pack: string) => ["history", pack] as const,
  proofs: (pack: string) => ["proof", pack] as const,
  proof: (pack: string, statement: string, trial: string) => ["proof", pack, statement, trial] as const,
  rows: (pack: string, statement: string, trial: string, revision: number, rows: readonly [number, number]) =>
    ["rows", pack, statement, trial, revision, ...rows] as const,
  figure: (pack: string, statement: string, place: string, revision: number, trial: string) =>
    ["figure", pack, statement, place, revision, trial] as const,
  nudges: (pack: string, statement: string, revision: number, trial: string) =>
    ["nudges", pack, statement, revision, trial] as const,
  tieable: (pack: string, statement: string, place: string, revision: number, typed: string) =>
    ["tieable", pack, statement, place, revision, typed] as const,
  found: (pack: string, revision: number, typed: string) => ["found", pack, revision, typed] as const,
  rulebook: (pack: string, revision: number, trial: string) => ["rulebook", pack, revision, trial] as const,
  houseStyles: (pack: string, revision: number) => ["houseStyles", pack, revision] as const,
  locales: (pack: string, revision: number, rule: string, trial: string, also: string) =>
    ["locales", pack, revision, rule, trial, also] as const,
  changes: (pack: string, trial: string, statement: string) => ["changes", pack, trial, statement] as const,
  why: (pack: string, revision: number, asked: unknown) => ["why", pack, revision, asked] as const,
  editions: (pack: string, revision: number) => ["editions", pack, revision] as const,
  beside: (pack: string, revision: number, statement: string, edition: string) =>
    ["beside", pack, revision, statement, edition] as const,
  dashboard: (pack: string, revision: number, dashboard: string) =>
    ["dashboard", pack, revision, dashboard] as const,
  agreement: (pack: string, revision: number) => ["agreement", pack, revision] as const,
  words: (pack: string, revision: number, dashboard: string, item: string) =>
    ["words", pack, revision, dashboard, item] as const,
  marks: (pack: string, revision: number, dashboard: string, item: string, typed: string) =>
    ["marks", pack, revision, dashboard, item, typed] as const,
  everywhere: (pack: string, revision: number, figure: string, place: string) =>
    ["everywhere", pack, revision, figure, place] as const,
  issue: (pack: string, revision: number) => ["issue", pack, revision] as const,
  documents: (pack: string, revision: number) => ["documents", pack, revision] as const,
  document: (pack: string, revision: number, id: number) => ["document", pack, revision, id] as const,
  review: (pack: string, revision: number) => ["review", pack, revision] as const,
  taken: (pack: string, revision: number) => ["taken", pack, revision] as const,
  group: (edition: string) => ["group", edition] as const,
  now: (pack: string) => ["now", pack] as const,
  deletedIssues: () => ["deletedIssues"] as const,
  footing: (pack: string, revision: number, plans: unknown) => ["footing", pack, revision, plans] as const,
};

/** A pack's own id: its address names an edition too where it is not the pack's own. */
export function packOf(address: string): string {
  return address.split("@")[0] ?? address;
}

/** Whether a kept answer is of the same pack in another of its editions. */
export function isOfOtherEdition(key: readonly unknown[], pack: string): boolean {
  const of = key[1];
  return typeof of === "string" && of !== pack && packOf(of) === packOf(pack);
}

/** Whether a kept answer is a page of a pack as it is, not on trial. */
export function isKeptProof(key: readonly unknown[]): boolean {
  return key[0] === "proof" && key[3] === "";
}
