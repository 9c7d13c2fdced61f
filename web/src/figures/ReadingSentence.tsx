import { useState } from "react";

import type { ToldView } from "../api/client";
import { WordMenu } from "../words/WordMenu";
import { TypedText } from "../words/TypedValue";
import type { Decide } from "./useIntake";

interface Props {
  told: ToldView;
  decide: (patch: Decide) => void;
}

const STOP = /^[,.;:]/;

/** A sentence of how something is read. Each choice of its words carries the decision that it is. */
export function ReadingSentence({ told, decide }: Props) {
  const [typing, setTyping] = useState<string | null>(null);
  const words = told.filter((part) => typeof part !== "string");
  const typed = words.find((word) => word.name === typing);
  return (
    <>
      <p className="sentence leading-8">
        {told.map((part, place) =>
          typeof part === "string" ? (
            <span key={place}>{STOP.test(part) ? part : ` ${part}`}</span>
          ) : (
            <span key={place}>
              {" "}
              <WordMenu
                word={{ name: part.name, label: part.label, clause: part.name }}
                choices={part.picks}
                chosen={part.chosen}
                onChoose={(pick) => {
                  const chosen = part.picks[pick];
                  if (chosen) decide(chosen.decide);
                }}
                keepsFocus={() => typing !== null}
                further={
                  part.typed.length > 0 ? [{ label: "Another…", onSelect: () => setTyping(part.name) }] : []
                }
              />
            </span>
          ),
        )}
      </p>
      {typed ? (
        <TypedText
          key={typed.name}
          name={typed.name}
          example={typed.example}
          onText={(text) => decide(patchOf(typed.typed, text))}
          onClose={() => setTyping(null)}
        />
      ) : null}
    </>
  );
}

/** The decision that gives a text at its place. */
function patchOf(path: readonly string[], text: string): Decide {
  const [first, ...rest] = path;
  if (first === undefined) return {};
  return { [first]: rest.length > 0 ? patchOf(rest, text) : text };
}
