import type { KeyboardEvent, Ref } from "react";
import { memo, useDeferredValue } from "react";

import type { FigureView } from "../api/client";
import { useFigure } from "../api/queries";
import { useSelection } from "../pack/SelectedFigure";
import { usePackControls, usePack } from "../pack/OpenPack";
import { showFigure } from "../pack/focus";
import type { Place } from "../api/queries";
import { Key } from "../ui/Key";
import { EarlierState } from "./EarlierState";
import { OtherPlaces } from "./OtherPlaces";
import { Decisions } from "./Decisions";
import { FigureName } from "./FigureName";
import { Nudges } from "./Nudges";
import { RefusalCard } from "./RefusalCard";
import { Remedies } from "./Remedies";
import { Sentence } from "./Sentence";
import { Specimens } from "./Specimens";
import { Structure } from "./Structure";
import { Contents } from "./Contents";
import { Tags } from "./Tags";
import { Ties } from "./Ties";
import { Trace } from "./Trace";
import { TrialCard } from "./TrialCard";
import { TieChooser } from "./TieChooser";
import { GapFixes } from "./GapFixes";
import { setSpecimens } from "../pack/formCommands";

/** Everything about the figure in hand: trace, rule, specimens, and ways to close its gap. */
export function Margin({ ref }: { ref: Ref<HTMLElement> }) {
  const { place, proof } = useSelection();
  const { trial: trialNow, tying } = usePack();
  const { setTying } = usePackControls();
  // The page is repainted first, and the margin right after it.
  const trial = useDeferredValue(trialNow);
  function onKeyDown(event: KeyboardEvent) {
    if (event.key !== "Escape" || event.defaultPrevented) return;
    setTying(null);
    if (place) showFigure(place);
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
      <EarlierState />
      <RefusalCard />
      {tying ? <TieChooser key={tying.join(":")} tying={tying} /> : null}
      {trial ? <TrialCard trial={trial} /> : null}
      {place ? <Figure place={place} /> : <p>Choose a figure to see how it came to print.</p>}
      {proof.nudges > 0 ? <Nudges /> : null}
    </aside>
  );
}

function Figure({ place }: { place: Place }) {
  const { where, pack, statement, trying, trial } = usePack();
  const { data, error } = useFigure(where, place, pack.revision);
  const figure = useDeferredValue(data);
  if (error) return <p role="alert">{error.message}</p>;
  if (!figure) return <p>Opening…</p>;
  return <OpenPack figure={figure} statement={statement} trying={trying || trial !== null} />;
}

interface Props {
  figure: FigureView;
  statement: string;
  trying: boolean;
}

/** The figure in hand. It is drawn again for another figure, not whenever the page is. */
const OpenPack = memo(function InHand({ figure, statement, trying }: Props) {
  const { act, setTrying } = usePackControls();
  return (
    <>
      <GapFixes gaps={figure.gaps} />
      <section aria-label="Trace">
        <FigureName figure={figure} />
        <Trace figure={figure} />
      </section>
      <Remedies remedies={figure.remedies} />
      <Sentence figure={figure} />
      <Ties figure={figure} statement={statement} />
      <OtherPlaces figure={[statement, figure.line, figure.column]} />
      <label className="flex items-center gap-2 text-soft">
        <input type="checkbox" className="accent-teal" checked={trying} onChange={() => setTrying(!trying)} />
        Try changes of rules before they are kept <Key>t</Key>
      </label>
      {figure.in_words ? (
        <section aria-label="In words">
          <h2 className="mb-1 text-[12px] font-semibold text-soft">In words</h2>
          <p>{figure.in_words}</p>
        </section>
      ) : null}
      <Decisions figure={figure} />
      <Specimens specimens={figure.specimens} onOwn={(amounts) => act(setSpecimens(statement, amounts))} />
      <Structure figure={figure} />
      <Contents figure={figure} />
      <Tags key={figure.line} tagging={figure.tagging} />
    </>
  );
});
