import type { KeyboardEvent, Ref } from "react";
import { lazy, memo, Suspense, useDeferredValue } from "react";

import type { FigureView } from "../api/client";
import { useFigure } from "../api/queries";
import { useSelection } from "../pack/SelectedFigure";
import { usePackControls, usePack } from "../pack/OpenPack";
import { showFigure } from "../pack/focus";
import type { Place } from "../api/queries";
import { EarlierState } from "./EarlierState";
import { FigureName } from "./FigureName";
import { RefusalCard } from "./RefusalCard";
import { Remedies } from "./Remedies";
import { Sentence } from "./Sentence";
import { Trace } from "./Trace";
import { GapFixes } from "./GapFixes";

// What stands below the sentence, and what is asked for, comes after the page.
const Details = lazy(() => import("./Details").then((made) => ({ default: made.Details })));
const TrialCard = lazy(() => import("./TrialCard").then((made) => ({ default: made.TrialCard })));
const Nudges = lazy(() => import("./Nudges").then((made) => ({ default: made.Nudges })));
const FigurePoints = lazy(() => import("./FigurePoints").then((made) => ({ default: made.FigurePoints })));
const StatementSignatures = lazy(() =>
  import("./StatementSignatures").then((made) => ({ default: made.StatementSignatures })),
);
const TieChooser = lazy(() => import("./TieChooser").then((made) => ({ default: made.TieChooser })));

/** Everything about the selected figure: trace, rule, specimens, and ways to close its gap. */
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
      <Suspense fallback={null}>
        {tying ? <TieChooser key={tying.join(":")} tying={tying} /> : null}
        {trial ? <TrialCard trial={trial} /> : null}
      </Suspense>
      {place ? <Figure place={place} /> : <p>Choose a figure to see how it came to print.</p>}
      <Suspense fallback={null}>
        <StatementSignatures />
        {proof.nudges > 0 ? <Nudges /> : null}
      </Suspense>
    </aside>
  );
}

function Figure({ place }: { place: Place }) {
  const { where, pack, trying, trial } = usePack();
  const { data, error } = useFigure(where, place, pack.revision);
  const figure = useDeferredValue(data);
  if (error) return <p role="alert">{error.message}</p>;
  if (!figure) return <p>Opening…</p>;
  return <FigureMargin figure={figure} trying={trying || trial !== null} />;
}

interface Props {
  figure: FigureView;
  trying: boolean;
}

/** The figure in hand. It is drawn again for another figure, not whenever the page is. */
const FigureMargin = memo(function FigureMargin({ figure, trying }: Props) {
  return (
    <>
      <GapFixes gaps={figure.gaps} />
      <section aria-label="Trace">
        <FigureName figure={figure} />
        <Trace figure={figure} />
      </section>
      <Remedies remedies={figure.remedies} />
      <Sentence figure={figure} />
      <Suspense fallback={null}>
        <FigurePoints figure={figure} />
        <Details figure={figure} trying={trying} />
      </Suspense>
    </>
  );
});
