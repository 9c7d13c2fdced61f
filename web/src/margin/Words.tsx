import type { WordView } from "../api/client";
import { Word } from "./Word";

interface Props {
  words: (string | WordView)[];
  onChoose: (word: WordView, value: unknown) => void;
}

const STOP = /^[,.;]/;

/** A sentence whose words open. A stop stays on the line of the word before it. */
export function Words({ words, onChoose }: Props) {
  return words.map((part, place) => {
    if (typeof part === "string") {
      const stop = STOP.test(part);
      const said = stop && typeof words[place - 1] === "object" ? part.slice(1) : part;
      return <span key={place}>{stop ? said : ` ${said}`}</span>;
    }
    const next = words[place + 1];
    const stop = typeof next === "string" && STOP.test(next) ? next[0] : "";
    return (
      <span key={part.clause}>
        {" "}
        <span className="whitespace-nowrap">
          <Word word={part} onChoose={(value) => onChoose(part, value)} />
          {stop}
        </span>
      </span>
    );
  });
}
