import type { Change } from "../api/client";
import type { FigureRef } from "./OpenPack";

/**
 * The commands whose parts are typed, dragged or chosen here. Every other one comes ready from the server.
 */
type Of<Kind extends Change["kind"]> = Extract<Change, { kind: Kind }>;
type Without<Kind extends Change["kind"]> = Omit<Of<Kind>, "kind">;

export const tie = ([statement, line, column]: FigureRef, to: FigureRef): Of<"tie"> => ({
  kind: "tie",
  statement,
  line,
  column,
  to,
});

export const moveLine = (statement: string, line: string, before: string | null): Of<"move_line"> => ({
  kind: "move_line",
  statement,
  line,
  before,
});

export const makePart = (statement: string, line: string, total: string): Of<"make_part"> => ({
  kind: "make_part",
  statement,
  line,
  total,
  sign: 1,
});

export const copyClauses = (
  statement: string,
  figure: FigureRef,
  lines: readonly string[],
): Of<"copy_clauses"> => ({ kind: "copy_clauses", statement, figure, lines: [...lines] });

export const setSpecimens = (statement: string, amounts: string[]): Of<"set_specimens"> => ({
  kind: "set_specimens",
  statement,
  amounts,
});

export const addRule = (said: Without<"add_rule">): Of<"add_rule"> => ({ kind: "add_rule", ...said });

/** A version of a house style is followed; any other rulebook takes the place of the pack's own. */
export const takeRulebook = (
  statement: string,
  rulebook: Record<string, unknown>,
): Of<"follow_style" | "use_rulebook"> => ({
  kind: "house_style" in rulebook ? "follow_style" : "use_rulebook",
  statement,
  rulebook,
});

export const placeItem = (dashboard: string, item: Of<"place_item">["item"]): Of<"place_item"> => ({
  kind: "place_item",
  dashboard,
  item,
});

export const moveItem = (dashboard: string, item: string, before: string | null): Of<"move_item"> => ({
  kind: "move_item",
  dashboard,
  item,
  before,
});

export const writePassage = (dashboard: string, item: string, text: string): Of<"write_passage"> => ({
  kind: "write_passage",
  dashboard,
  item,
  text,
});

export const addDashboard = (name: string, edition: string): Of<"add_dashboard"> => ({
  kind: "add_dashboard",
  name,
  edition,
});

export const editDashboard = (said: Without<"edit_dashboard">): Of<"edit_dashboard"> => ({
  kind: "edit_dashboard",
  ...said,
});

export const addEdition = (name: string, currency: string | null): Of<"add_edition"> => ({
  kind: "add_edition",
  name,
  currency,
  rates: [],
});

export const editPack = (said: Without<"edit_pack">): Of<"edit_pack"> => ({ kind: "edit_pack", ...said });

export const addStatement = (name: string): Of<"add_statement"> => ({
  kind: "add_statement",
  name,
  columns: ["This period"],
  lines: ["First line"],
});

/** Several changes as one: kept together and undone together. */
export const together = (statement: string, changes: Of<"together">["changes"]): Of<"together"> => ({
  kind: "together",
  statement,
  changes,
});
