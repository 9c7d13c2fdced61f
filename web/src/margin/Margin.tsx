import type { KeyboardEvent, Ref } from "react";
import { memo, useDeferredValue } from "react";

import type { ChangedView, FigureView, Problem, ProofView } from "../api/client";
import type { Deed, Place, Where } from "../api/queries";
import { useFigure } from "../api/queries";
import type { Trial } from "../api/trials";
import { TrialCard } from "../rulebook/TrialCard";
import { Key } from "../ui/Key";
import { Decisions } from "./Decisions";
import { Held } from "./Held";
import { Nudges } from "./Nudges";
import { Refused } from "./Refused";
import { Remedies } from "./Remedies";
import { Sentence } from "./Sentence";
import { Specimens } from "./Specimens";
import { Structure } from "./Structure";
import { Ties } from "./Ties";
import { Trace } from "./Trace";
import { Ways } from "./Ways";

interface Props {
  ref: Ref<HTMLElement>;
  trial: Trial | null;
  seen: number | null;
  trying: boolean;
  onTrying: () => void;
  onSeen: (changed: ChangedView, at: number) => void;
  onKeep: () => void;
  onDrop: () => void;
  where: Where;
  place: Place | null;
  proof: ProofView;
  revision: number;
  act: (deed: Deed) => void;
  chosen: string[];
  naming: boolean;
  onNaming: (naming: boolean) => void;
  onHold: () => void;
  onTie: () => void;
  onFigure: (statement: string, line: string, column: string) => void;
  onSelect: (place: Place) => void;
  onLeave: () => void;
  onRule: (rule: string) => void;
  problem: Problem | null;
  onProblem: (problem: Problem | null) => void;
}

/** Everything about the figure in hand: trace, rule, specimens, and ways to close its gap. */
export function Margin(props: Props) {
  const { ref, where, place, act, onLeave, problem, onProblem } = props;
  // The page is repainted first, and the margin right after it.
  const trial = useDeferredValue(props.trial);
  function onKeyDown(event: KeyboardEvent) {
    if (event.key === "Escape" && !event.defaultPrevented) onLeave();
  }
  return (
    // Escape anywhere in the margin goes back to the page; each control in here has its own role.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <aside
      ref={ref}
      aria-label="Margin"
      className="relative space-y-4 overflow-y-auto border-l border-hairline bg-panel-light p-4 print:hidden"
      onKeyDown={onKeyDown}
    >
      {problem ? (
        <Refused problem={problem} statement={where.statement} act={act} onClose={() => onProblem(null)} />
      ) : null}
      {trial ? (
        <TrialCard
          pack={where.pack}
          statement={where.statement}
          trial={trial}
          at={props.seen}
          onSee={props.onSeen}
          onKeep={props.onKeep}
          onDrop={props.onDrop}
        />
      ) : null}
      {place ? <Figure {...props} place={place} /> : <p>Choose a figure to see how it came to print.</p>}
    </aside>
  );
}

function Figure(props: Props & { place: Place }) {
  const { where, place, proof, revision, act, chosen, naming, onNaming, onHold, onRule, onSelect } = props;
  const { onTie, onFigure } = props;
  const { data, error } = useFigure(where, place, revision);
  const figure = useDeferredValue(data);
  if (error) return <p role="alert">{error.message}</p>;
  if (!figure) return <p>Opening…</p>;
  return (
    <>
      <InHand
        figure={figure}
        statement={where.statement}
        trying={props.trying || props.trial !== null}
        {...{ act, chosen, naming, onNaming, onHold, onTie, onFigure, onRule, onTrying: props.onTrying }}
      />
      {proof.nudges > 0 ? <Nudges where={where} revision={revision} act={act} onSelect={onSelect} /> : null}
    </>
  );
}

interface InHandProps extends Pick<
  Props,
  "act" | "chosen" | "naming" | "onNaming" | "onHold" | "onTie" | "onFigure" | "onRule" | "onTrying"
> {
  figure: FigureView;
  statement: string;
  trying: boolean;
}

/** The figure in hand. It is drawn again for another figure, not whenever the page is. */
const InHand = memo(function InHand(props: InHandProps) {
  const { figure, statement, act } = props;
  return (
    <>
      <Ways figure={figure} statement={statement} act={act} />
      <section aria-label="Trace">
        <Held figure={figure} statement={statement} act={act} onHold={props.onHold} />
        <Trace figure={figure} />
      </section>
      <Remedies figure={figure} statement={statement} act={act} />
      <Sentence figure={figure} statement={statement} act={act} />
      <Ties figure={figure} statement={statement} act={act} onTie={props.onTie} onFigure={props.onFigure} />
      <label className="flex items-center gap-2 text-soft">
        <input type="checkbox" className="accent-teal" checked={props.trying} onChange={props.onTrying} />
        Try changes of rules before they are kept <Key>t</Key>
      </label>
      {figure.in_words ? (
        <section aria-label="In words">
          <h2 className="mb-1 text-[12px] font-semibold text-soft">In words</h2>
          <p>{figure.in_words}</p>
        </section>
      ) : null}
      <Decisions figure={figure} onRule={props.onRule} />
      <Specimens
        specimens={figure.specimens}
        onOwn={(amounts) => act({ kind: "set_specimens", statement, amounts })}
      />
      <Structure
        figure={figure}
        statement={statement}
        chosen={props.chosen}
        naming={props.naming}
        onNaming={props.onNaming}
        act={act}
      />
    </>
  );
});
