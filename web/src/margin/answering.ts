import type { Change, FigureView, WordView } from "../api/client";

/** What is done about a gap. */
export type Answer = "nudge" | "printed" | "note";

/** The change of what is done about one sum alone; null where a word says something else. */
export function answerAlone(
  word: WordView,
  value: unknown,
  way: "down" | "across",
  figure: FigureView,
  statement: string,
): Change | null {
  const sentence = way === "down" ? figure.structure.sentence : figure.column_sentence;
  const alone = valueOf(sentence, "answered_in") === true;
  if (word.clause !== "answered_in" && !(word.clause === "answer" && alone)) return null;
  const own = word.clause === "answer" ? value : valueOf(sentence, "answer");
  const { line, column } = figure;
  const answer = value === false ? null : (own as Answer);
  return { kind: "answer_relation", statement, way, line, column, answer };
}

/** The value that a word of a sentence has now. */
function valueOf(sentence: (string | WordView)[], clause: string): unknown {
  const word = sentence.find((part) => typeof part !== "string" && part.clause === clause);
  return typeof word === "object" ? word.value : undefined;
}
