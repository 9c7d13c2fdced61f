import { useState } from "react";
import type { ReactNode } from "react";

import type { Change, SentenceView, WordView } from "../api/client";
import { TypedValue } from "./TypedValue";
import { Word } from "./Word";

interface Props {
  words: SentenceView;
  act: (change: Change) => void;
  /** Words the sentence does not have yet. */
  more?: { words: WordView[]; name: string; shown: ReactNode };
  /** What stands after a word, such as how little it decides. */
  after?: ((word: WordView) => ReactNode) | undefined;
}

const STOP = /^[,.;]/;

/** A sentence whose words open, with words to add to it and a field for what has to be typed. */
export function Words({ words, act, more, after }: Props) {
  const [typing, setTyping] = useState<string | null>(null);
  const [open, setOpen] = useState(false);
  const all = [...words.filter((part) => typeof part !== "string"), ...(more?.words ?? [])];
  const typed = all.find((word) => word.clause === typing)?.typed;
  const word = (each: WordView, shown?: string) => (
    <Word word={each} act={act} onType={() => setTyping(each.clause)} shown={shown} />
  );
  return (
    <>
      <Said words={words} word={word} after={after} />
      {more ? (
        <>
          {" "}
          <button
            type="button"
            aria-expanded={open}
            aria-label={more.name}
            className="rounded-sm border border-hairline bg-paper px-1.5 leading-5 hover:border-teal"
            onClick={() => setOpen(!open)}
          >
            {more.shown}
          </button>
        </>
      ) : null}
      {more && open ? (
        <div className="mt-1 flex flex-wrap gap-1.5">
          {more.words.map((each) => (
            <span key={each.clause}>{word(each, each.adds)}</span>
          ))}
        </div>
      ) : null}
      {typed ? <TypedValue key={typing} typed={typed} act={act} onClose={() => setTyping(null)} /> : null}
    </>
  );
}

interface SaidProps extends Pick<Props, "words" | "after"> {
  word: (word: WordView) => ReactNode;
}

/** The sentence itself. A stop stays on the line of the word before it. */
function Said({ words, word, after }: SaidProps) {
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
          {word(part)}
          {after?.(part)}
          {stop}
        </span>
      </span>
    );
  });
}
