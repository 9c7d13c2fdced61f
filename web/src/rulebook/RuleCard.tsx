import type { KeyboardEvent } from "react";

import type { RuleView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { Words } from "../words/Words";
import { ruleId } from "./showRule";

interface Props {
  rule: RuleView;
  most: number;
  chosen: boolean;
  onChoose: () => void;
  onStep: (by: 1 | -1) => void;
}

const STANDINGS: Partial<Record<RuleView["standing"], string>> = {
  idle: "idle: it reaches no figure",
  overruled: "overruled: narrower or later rules decide all of it",
  off: "switched off",
};

/** One rule: its name and reach, its sentence, and how many figures it decides; what can be done with it where it is in hand. */
export function RuleCard({ rule, most, chosen, onChoose, onStep }: Props) {
  const { tryOut } = usePackControls();
  const share = most > 0 ? rule.figures / most : 0;
  const idle = rule.off || rule.standing === "idle";
  function onKeyDown(event: KeyboardEvent) {
    if (event.target !== event.currentTarget) return;
    const by = event.key === "ArrowDown" ? 1 : event.key === "ArrowUp" ? -1 : 0;
    if (by === 0) return;
    event.preventDefault();
    const moved = by < 0 ? rule.earlier : rule.later;
    if (!event.altKey) onStep(by);
    else if (moved) tryOut(moved);
  }
  return (
    <li
      id={ruleId(rule.id)}
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
          {rule.sentence.length === 0 ? <span className="text-soft">It has no clauses yet. </span> : null}
          <Words
            words={rule.sentence}
            act={tryOut}
            more={{ words: rule.more, name: `More clauses for ${rule.name}`, shown: "+" }}
            after={({ clause }) =>
              // A word that decides nothing says so.
              !rule.decides[clause] && !idle ? (
                <span className="ml-1 text-[12px] text-rust">(none)</span>
              ) : null
            }
          />
        </div>
        {chosen ? <RuleActions rule={rule} /> : null}
      </div>
      <div className="text-right">
        <p className="font-serif text-[15px] font-semibold">{rule.figures}</p>
        <p className="text-[12px] text-soft">{rule.figures === 1 ? "figure decided" : "figures decided"}</p>
        <div aria-hidden="true" className="mt-1 h-1 bg-hairline/50">
          <div className="h-1 bg-teal" style={{ width: `${share * 100}%` }} />
        </div>
      </div>
    </li>
  );
}

/** What can be done with the rule in hand. */
function RuleActions({ rule }: { rule: RuleView }) {
  const { tryOut } = usePackControls();
  const ways = [
    ["Earlier", rule.earlier],
    ["Later", rule.later],
    ["Duplicate", rule.duplicate],
    [rule.off ? "Switch on" : "Switch off", rule.switch],
    ["Remove", rule.remove],
  ] as const;
  return (
    <div className="mt-1 flex flex-wrap gap-x-3 text-[12.5px]">
      {ways.map(([name, change]) => (
        <button
          key={name}
          type="button"
          disabled={!change}
          className="min-h-6 rounded-sm text-teal hover:underline disabled:text-soft disabled:no-underline"
          onClick={() => change && tryOut(change)}
        >
          {name}
        </button>
      ))}
    </div>
  );
}
