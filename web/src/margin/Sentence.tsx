import { useState } from "react";

import type { Apply, Change, FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { WordMenu } from "../words/WordMenu";
import { Words } from "../words/Words";
import { LEVELS } from "../words/levels";

/** The rule in force, as a sentence whose words are its controls. */
export function Sentence({ figure }: { figure: FigureView }) {
  const { act } = usePackControls();
  const [apply, setApply] = useState<Apply>("origin");
  const { reaches, sentence, more } = figure;
  const at = reaches.findIndex((each) => each.apply === apply);
  const reaching = (change: Change) => act(change.kind === "set_clause" ? { ...change, apply } : change);
  const levels = new Set(sentence.map((part) => (typeof part === "string" ? null : part.level)));
  return (
    <section aria-labelledby="rule-in-force">
      <h2 id="rule-in-force" className="mb-1 text-[12px] font-semibold text-soft">
        Rule in force
      </h2>
      <div className="text-[14.5px]/[1.85]">
        <Words words={sentence} act={reaching} more={{ words: more, name: "+ more", shown: "+ more" }} />
      </div>
      <div className="mt-1.5">
        <span className="text-soft">A change applies </span>
        <WordMenu
          word={{ name: "reach", clause: "reach", label: reaches[at]?.label ?? "" }}
          choices={reaches}
          chosen={at}
          onChoose={(place) => setApply(reaches[place]?.apply ?? "origin")}
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
