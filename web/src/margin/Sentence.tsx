import { useState } from "react";

import type { Apply, FigureView, WordView } from "../api/client";
import type { Deed } from "../api/queries";
import { AnotherWord } from "./AnotherWord";
import { Word } from "./Word";
import { LEVELS, wordsOf } from "./choosing";

interface Props {
  figure: FigureView;
  statement: string;
  act: (deed: Deed) => void;
}

/** The rule in force, as a sentence whose words are its controls. */
export function Sentence({ figure, statement, act }: Props) {
  const [apply, setApply] = useState<Apply>("origin");
  const [typing, setTyping] = useState<string | null>(null);
  const { line, column } = figure;

  const choose = (clause: string, value: unknown) =>
    act({ kind: "set_clause", statement, line, column, clause, value, apply });
  const drop = (word: WordView) => {
    if (word.rule) act({ kind: "drop_clause", statement, rule: word.rule, clause: word.clause });
  };

  const typed = [...wordsOf(figure), ...figure.more].find((word) => word.clause === typing);
  const levels = new Set(wordsOf(figure).map((word) => word.level));
  const reach = figure.reaches.find((each) => each.apply === apply);
  return (
    <section aria-labelledby="rule-in-force">
      <h2 id="rule-in-force" className="mb-1 text-[12px] font-semibold text-soft">
        Rule in force
      </h2>
      <div className="text-[14.5px]/[1.85]">
        {figure.sentence.map((part, place) =>
          typeof part === "string" ? (
            <span key={place}>{/^[,.]/.test(part) ? part : ` ${part}`}</span>
          ) : (
            <span key={part.clause}>
              {" "}
              <Word
                word={part}
                onChoose={(value) => choose(part.clause, value)}
                onDrop={() => drop(part)}
                onType={() => setTyping(part.clause)}
              />
            </span>
          ),
        )}
      </div>
      <More words={figure.more} onChoose={choose} onType={setTyping} />
      {typed?.free ? (
        <AnotherWord
          key={typed.clause}
          free={typed.free}
          onSave={(value) => {
            setTyping(null);
            choose(typed.clause, value);
          }}
          onClose={() => setTyping(null)}
        />
      ) : null}
      <div className="mt-1.5">
        <span className="text-soft">A change applies </span>
        <Word
          word={{
            clause: "reach",
            label: reach?.label ?? "",
            value: apply,
            level: "default",
            rule: null,
            rule_name: "",
            choices: figure.reaches.map((each) => ({ value: each.apply, label: each.label, example: "" })),
            free: null,
          }}
          onChoose={(value) => setApply(value as Apply)}
        />
      </div>
      <ul className="mt-1.5 flex flex-wrap gap-x-3 text-[12px] text-soft" aria-label="Where a word was set">
        {LEVELS.filter(({ level }) => levels.has(level)).map(({ level, name, mark }) => (
          <li key={level}>
            <span aria-hidden="true" className={`mr-1 inline-block w-4 border-b-3 align-middle ${mark}`} />
            {name}
          </li>
        ))}
      </ul>
    </section>
  );
}

interface MoreProps {
  words: WordView[];
  onChoose: (clause: string, value: unknown) => void;
  onType: (clause: string) => void;
}

/** Words the sentence does not have yet, behind a plus. */
function More({ words, onChoose, onType }: MoreProps) {
  const [open, setOpen] = useState(false);
  return (
    <div className="mt-1">
      <button
        type="button"
        aria-expanded={open}
        className="rounded-sm border border-hairline bg-paper px-1.5 hover:border-teal"
        onClick={() => setOpen(!open)}
      >
        + more
      </button>
      {open ? (
        <div className="mt-1 flex flex-wrap gap-1.5">
          {words.map((word) => (
            <Word
              key={word.clause}
              word={word}
              shown={MORE[word.clause] ?? word.clause}
              onChoose={(value) => onChoose(word.clause, value)}
              onType={() => onType(word.clause)}
            />
          ))}
        </div>
      ) : null}
    </div>
  );
}

const MORE: Partial<Record<string, string>> = {
  step: "a rounding step",
  plus: "a plus sign",
  negative_tone: "a tone for negatives",
  bands: "marks by condition",
  before: "text before",
  after: "text after",
  words: "words for units",
  width: "a width",
  digits: "other digits",
  line_up: "lining up",
};
