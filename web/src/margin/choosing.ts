import type { Change, FigureView, WordView } from "../api/client";

/** The words of a figure's sentence that open. */
export function wordsOf(figure: FigureView): WordView[] {
  return figure.sentence.filter((part) => typeof part !== "string");
}

export function same(a: unknown, b: unknown): boolean {
  return JSON.stringify(a) === JSON.stringify(b);
}

function set(figure: FigureView, statement: string, clause: string, value: unknown): Change {
  const { line, column } = figure;
  return { kind: "set_clause", statement, line, column, clause, value, apply: "origin" };
}

/** The change to a clause's next choice, round and round, where it was decided. */
export function cycle(figure: FigureView, statement: string, clause: string): Change | null {
  const word = wordsOf(figure).find((each) => each.clause === clause);
  if (!word) return null;
  const at = word.choices.findIndex((choice) => same(choice.value, word.value));
  const next = word.choices[(at + 1) % word.choices.length];
  return next ? set(figure, statement, clause, next.value) : null;
}

/** One decimal more or fewer, stopping at the ends. */
export function stepDecimals(figure: FigureView, statement: string, by: 1 | -1): Change | null {
  const word = wordsOf(figure).find((each) => each.clause === "decimals");
  const value: unknown = word?.value;
  const fixed = typeof value === "object" && value !== null && "fixed" in value ? Number(value.fixed) : 2;
  const next = Math.min(20, Math.max(0, fixed + by));
  return next === fixed ? null : set(figure, statement, "decimals", { fixed: next });
}

/** Where a word can have been set, and its underline: never told by colour alone. */
export const LEVELS: readonly { level: WordView["level"]; name: string; mark: string }[] = [
  { level: "default", name: "Default", mark: "border-hairline" },
  { level: "everywhere", name: "House", mark: "border-teal" },
  { level: "statement", name: "Statement", mark: "border-plum border-double" },
  { level: "kind", name: "Kind", mark: "border-moss border-double" },
  { level: "column", name: "Column", mark: "border-ink border-dotted" },
  { level: "line", name: "Line", mark: "border-ochre border-dashed" },
  { level: "figure", name: "Figure", mark: "border-rust border-dotted" },
];
