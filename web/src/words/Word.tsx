import { useRef } from "react";

import type { Change, WordView } from "../api/client";
import { WordMenu } from "./WordMenu";
import { LEVELS } from "./levels";

interface Props {
  word: WordView;
  act: (change: Change) => void;
  onType?: (() => void) | undefined;
  shown?: string | undefined;
}

/** A word of a sentence. Each of its choices carries the change that it makes. */
export function Word({ word, act, onType, shown }: Props) {
  const mark = LEVELS.find(({ level }) => level === word.level)?.mark;
  const typing = useRef(false);
  const { drop, typed } = word;
  return (
    <WordMenu
      word={{
        name: word.name,
        label: word.label,
        shown,
        hint: word.rule_name ? `${word.name}, set by ${word.rule_name}` : undefined,
        mark,
        clause: word.clause,
      }}
      choices={word.choices}
      chosen={word.chosen}
      onChoose={(place) => {
        const change = word.choices[place]?.change;
        if (change) act(change);
      }}
      keepsFocus={() => {
        // The field that was asked for has the focus by now; the word must not take it back.
        const kept = typing.current;
        typing.current = false;
        return kept;
      }}
      further={[
        ...(typed && onType
          ? [
              {
                label: typed.menu,
                onSelect: () => {
                  typing.current = true;
                  onType();
                },
              },
            ]
          : []),
        ...(drop ? [{ label: drop.label, apart: true, onSelect: () => act(drop.change) }] : []),
      ]}
    />
  );
}
