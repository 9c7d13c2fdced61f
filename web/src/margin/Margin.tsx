import type { KeyboardEvent, Ref } from "react";
import { useDeferredValue } from "react";

import type { Problem, ProofView } from "../api/client";
import type { Deed, Place, Where } from "../api/queries";
import { useFigure } from "../api/queries";
import { Held } from "./Held";
import { Nudges } from "./Nudges";
import { Refused } from "./Refused";
import { Sentence } from "./Sentence";
import { Specimens } from "./Specimens";
import { Structure } from "./Structure";
import { Trace } from "./Trace";
import { Ways } from "./Ways";

interface Props {
  ref: Ref<HTMLElement>;
  where: Where;
  place: Place | null;
  proof: ProofView;
  revision: number;
  act: (deed: Deed) => void;
  chosen: string[];
  naming: boolean;
  onNaming: (naming: boolean) => void;
  onHold: () => void;
  onSelect: (place: Place) => void;
  onLeave: () => void;
  problem: Problem | null;
  onProblem: (problem: Problem | null) => void;
}

/** Everything about the figure in hand: trace, rule, specimens, and ways to close its gap. */
export function Margin(props: Props) {
  const { ref, where, place, act, onLeave, problem, onProblem } = props;
  function onKeyDown(event: KeyboardEvent) {
    if (event.key === "Escape" && !event.defaultPrevented) onLeave();
  }
  return (
    // Escape anywhere in the margin goes back to the page; each control in here has its own role.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <aside
      ref={ref}
      aria-label="Margin"
      className="space-y-4 overflow-y-auto border-l border-hairline bg-panel-light p-4 print:hidden"
      onKeyDown={onKeyDown}
    >
      {problem ? (
        <Refused problem={problem} statement={where.statement} act={act} onClose={() => onProblem(null)} />
      ) : null}
      {place ? <Figure {...props} place={place} /> : <p>Choose a figure to see how it came to print.</p>}
    </aside>
  );
}

function Figure(props: Props & { place: Place }) {
  const { where, place, proof, revision, act, chosen, naming, onNaming, onHold, onSelect } = props;
  const { data, error } = useFigure(where, place, revision);
  // The page is repainted first, and the margin right after it.
  const figure = useDeferredValue(data);
  if (error) return <p role="alert">{error.message}</p>;
  if (!figure) return <p>Opening…</p>;
  return (
    <>
      <section aria-label="Trace">
        <Held figure={figure} statement={where.statement} act={act} onHold={onHold} />
        <Trace figure={figure} />
      </section>
      <Sentence figure={figure} statement={where.statement} act={act} />
      <Specimens figure={figure} />
      <Ways figure={figure} statement={where.statement} act={act} />
      <Structure
        figure={figure}
        statement={where.statement}
        chosen={chosen}
        naming={naming}
        onNaming={onNaming}
        act={act}
      />
      {proof.nudges > 0 ? <Nudges where={where} revision={revision} act={act} onSelect={onSelect} /> : null}
    </>
  );
}
