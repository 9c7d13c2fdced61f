import type { WordView } from "../api/client";
import { Word } from "./Word";

interface Props {
  words: (string | WordView)[];
  onChoose: (word: WordView, value: unknown) => void;
}

/** A sentence whose words open. */
export function Words({ words, onChoose }: Props) {
  return words.map((part, place) =>
    typeof part === "string" ? (
      <span key={place}>{/^[,.;]/.test(part) ? part : ` ${part}`}</span>
    ) : (
      <span key={part.clause}>
        {" "}
        <Word word={part} onChoose={(value) => onChoose(part, value)} />
      </span>
    ),
  );
}
