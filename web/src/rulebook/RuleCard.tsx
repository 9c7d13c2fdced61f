import type { KeyboardEvent } from "react";
import { useState } from "react";

import type { RuleView, WordView } from "../api/client";
import { AnotherWord } from "../margin/AnotherWord";
import { Word } from "../margin/Word";

interface Props {
  rule: RuleView;
  most: number;
  chosen: boolean;
  first: boolean;
  last: boolean;
  onChoose: () => void;
  onStep: (by: 1 | -1) => void;
  onMove: (by: 1 | -1) => void;
  onDuplicate: () => void;
  onSwitch: () => void;
  onRemove: () => void;
  onClause: (clause: string, value: unknown) => void;
  onDropClause: (clause: string) => void;
}

const STANDINGS: Partial<Record<RuleView["standing"], string>> = {
  idle: "idle: it reaches no figure",
  overruled: "overruled: narrower or later rules decide all of it",
  off: "switched off",
};

/** One rule: its name and reach, its sentence, and how many clauses of figures it decides. */
export function RuleCard(props: Props) {
  const { rule, most, chosen, first, last, onChoose, onStep, onMove, onClause, onDropClause } = props;
  const [typing, setTyping] = useState<string | null>(null);
  const [more, setMore] = useState(false);
  const words = [...rule.sentence.filter((part) => typeof part !== "string"), ...rule.more];
  const typed = words.find((word) => word.clause === typing);
  const share = most > 0 ? rule.in_force / most : 0;
  function onKeyDown(event: KeyboardEvent) {
    if (event.target !== event.currentTarget) return;
    const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    if (event.altKey) onMove(by);
    else onStep(by);
  }
  return (
    <li
      id={`rule-${rule.id}`}
      className={`grid grid-cols-[9.5rem_minmax(0,1fr)_6.5rem] gap-4 rounded-lg border px-3.5 py-2.5 ${chosen ? "border-2 border-teal" : "border-hairline"} ${rule.off ? "border-dashed bg-panel-light" : "bg-paper"}`}
    >
      <div>
        <button
          type="button"
          aria-pressed={chosen}
          className="text-left font-semibold"
          onClick={onChoose}
          onKeyDown={onKeyDown}
        >
          {rule.name}
        </button>
        <p className="text-[12.5px] text-soft">{rule.reach_said}</p>
        {STANDINGS[rule.standing] ? (
          <p className="mt-1 text-[12px] text-rust">{STANDINGS[rule.standing]}</p>
        ) : null}
      </div>
      <div>
        <div className="text-[14px]/[1.9]">
          {rule.sentence.map((part, place) =>
            typeof part === "string" ? (
              <span key={place}>{/^[,.;]/.test(part) ? part : ` ${part}`}</span>
            ) : (
              <RuleWord
                key={part.clause}
                word={part}
                decides={rule.decides[part.clause] ?? 0}
                off={rule.off || rule.standing === "idle"}
                onChoose={(value) => onClause(part.clause, value)}
                onDrop={() => onDropClause(part.clause)}
                onType={() => setTyping(part.clause)}
              />
            ),
          )}
          {rule.sentence.length === 0 ? <span className="text-soft">It says nothing yet. </span> : null}
          <button
            type="button"
            aria-expanded={more}
            aria-label={`More clauses for ${rule.name}`}
            className="ml-1 rounded-sm border border-hairline px-1.5 leading-5 hover:border-teal"
            onClick={() => setMore(!more)}
          >
            +
          </button>
        </div>
        {more ? (
          <div className="mt-1 flex flex-wrap gap-1.5">
            {rule.more.map((word) => (
              <Word
                key={word.clause}
                word={word}
                shown={word.clause.replaceAll("_", " ")}
                onChoose={(value) => onClause(word.clause, value)}
                onType={() => setTyping(word.clause)}
              />
            ))}
          </div>
        ) : null}
        {typed?.free ? (
          <AnotherWord
            key={typed.clause}
            free={typed.free}
            onSave={(value) => {
              setTyping(null);
              onClause(typed.clause, value);
            }}
            onClose={() => setTyping(null)}
          />
        ) : null}
        <div className="mt-1 flex flex-wrap gap-x-3 text-[12.5px]">
          <Act name="Earlier" disabled={first} onClick={() => onMove(-1)} />
          <Act name="Later" disabled={last} onClick={() => onMove(1)} />
          <Act name="Duplicate" onClick={props.onDuplicate} />
          <Act name={rule.off ? "Switch on" : "Switch off"} onClick={props.onSwitch} />
          <Act name="Take out" onClick={props.onRemove} />
        </div>
      </div>
      <div className="text-right">
        <p className="font-serif text-[15px] font-semibold">{rule.in_force}</p>
        <p className="text-[12px] text-soft">clauses in force</p>
        <div aria-hidden="true" className="mt-1 h-1 bg-hairline/50">
          <div className="h-1 bg-teal" style={{ width: `${share * 100}%` }} />
        </div>
      </div>
    </li>
  );
}

interface RuleWordProps {
  word: WordView;
  decides: number;
  off: boolean;
  onChoose: (value: unknown) => void;
  onDrop: () => void;
  onType: () => void;
}

/** A word of a rule, which says so where it decides nothing. */
function RuleWord({ word, decides, off, onChoose, onDrop, onType }: RuleWordProps) {
  return (
    <span>
      {" "}
      <Word word={word} onChoose={onChoose} onDrop={onDrop} onType={onType} drops="take this word out" />
      {decides === 0 && !off ? <span className="ml-1 text-[12px] text-rust">(none)</span> : null}
    </span>
  );
}

function Act({ name, disabled = false, onClick }: { name: string; disabled?: boolean; onClick: () => void }) {
  return (
    <button
      type="button"
      disabled={disabled}
      className="rounded-sm text-teal hover:underline disabled:text-soft disabled:no-underline"
      onClick={onClick}
    >
      {name}
    </button>
  );
}
