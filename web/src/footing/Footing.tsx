import { useCallback, useMemo, useState } from "react";

import type { FootingPageView, Foot } from "../api/client";
import { WorkScreen } from "../frame/WorkScreen";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { showFigure, showSelected } from "../pack/focus";
import { Notice } from "../words/Notice";
import { AfterFooting } from "./AfterFooting";
import { MovedFigures } from "./MovedFigures";
import { PlacesToSettle } from "./PlacesToSettle";
import { Plan } from "./Plan";
import { Relations } from "./Relations";
import { Searching } from "./Searching";
import { usePlanning } from "./usePlanning";

type Relation = FootingPageView["relations"][number]["relations"][number];

/** Footing: every relation in words, the plan as a sentence, and what it would move. */
export function Footing() {
  const { pack, says, problem } = usePack();
  const { go, keep, setProblem } = usePackControls();
  const [foot, setFoot] = useState<Foot | null>(null);
  const planning = usePlanning(pack, foot);
  const { page, error, progress } = planning;
  const [gapsOnly, setGapsOnly] = useState(true);
  const keepPlan = useCallback(() => {
    // Once it is kept it is the pack's own, and undo takes it back with its nudges.
    if (page?.kept === false) keep(page.foot, () => setFoot(null));
  }, [keep, page]);
  const actions = useFootingActions(page, keepPlan);
  const visit = (statement: string, line: string, column: string) => {
    go({ screen: "page", statement, place: { line, column } });
    showFigure({ line, column });
  };
  const open = (relation: Relation) => !gapsOnly || relation.marks.some((mark) => mark.status !== "foots");
  const shown = (page?.relations ?? [])
    .map((group) => ({ ...group, relations: group.relations.filter(open) }))
    .filter((group) => group.relations.length > 0);
  return (
    <WorkScreen
      title="Footing"
      says={says || (page ? gapsSaid(page.gaps) : "")}
      actions={actions}
      margin={
        <>
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          {page ? <AfterFooting page={page} onPlan={setFoot} onVisit={visit} /> : null}
          <PlacesToSettle />
        </>
      }
      footer={page ? footer(page) : ""}
    >
      {page ? <Plan page={page} onPlan={setFoot} onFigure={visit} /> : null}
      {error ? <p role="alert">{error.message}</p> : null}
      <Searching planning={planning} onKeep={keepPlan} />
      {page?.after ? (
        <MovedFigures
          moves={page.moves}
          foot={page.foot}
          kept={page.kept}
          figures={page.after.figures}
          onVisit={(move) => visit(move.statement, move.line, move.column)}
        />
      ) : (
        <p className="text-soft">{progress ? "" : standing(page)}</p>
      )}
      <label className="flex items-center gap-2 text-soft">
        <input
          type="checkbox"
          className="accent-teal"
          checked={gapsOnly}
          onChange={() => setGapsOnly(!gapsOnly)}
        />
        Only relations that do not foot
      </label>
      {page && shown.length === 0 ? <p className="text-moss">Every relation foots.</p> : null}
      {shown.map((group) => (
        <Relations
          key={`${group.statement} ${group.way}`}
          group={group}
          onVisit={(line, column) => visit(group.statement, line, column)}
        />
      ))}
    </WorkScreen>
  );
}

function useFootingActions(page: FootingPageView | undefined, keepPlan: () => void): Action[] {
  const { go, act, keep, tryOut } = usePackControls();
  return useMemo(() => {
    const toPage = () => {
      go({ screen: "page" });
      showSelected();
    };
    const release = page?.impossible?.change;
    return [
      { name: "To the page", key: "t", button: "To the page", run: toPage },
      {
        name: "Compare the plan with the page as it is",
        key: "c",
        button: "Compare on the page",
        off: !page?.after,
        run: () => page && tryOut(page.foot, toPage),
      },
      {
        name: "Keep the plan",
        key: "k",
        button: page?.kept ? "Kept" : "Keep these nudges",
        main: true,
        off: !page?.after || page.kept,
        run: keepPlan,
      },
      {
        name: "Release the holds in the way",
        key: "r",
        off: !release,
        run: () => release && keep(release),
      },
      { name: "Undo", key: "u", run: () => act("undo") },
      { name: "Redo", key: "U", run: () => act("redo") },
    ];
  }, [act, go, keep, keepPlan, page, tryOut]);
}

function gapsSaid(gaps: number): string {
  if (gaps === 0) return "Every sum foots as printed";
  return gaps === 1 ? "1 gap" : `${gaps} gaps`;
}

function footer({ after, kept, moves }: FootingPageView): string {
  if (!after) return "";
  const nudges = after.moved === 1 ? "1 nudge" : `${after.moved} nudges`;
  if (kept) return after.moved === 0 ? "Nothing would move" : `${nudges} kept, nothing more would move`;
  const other = moves.filter((move) => !move.kept).length;
  const figures = other === 1 ? "1 figure" : `${other} figures`;
  const left = after.leaves.length;
  const back = left === 0 ? "" : `, ${left} would go back to their own rounding`;
  return `${figures} would move${back}, ${after.foots} of ${after.relations} sums would foot`;
}

function standing(page: FootingPageView | undefined): string {
  if (!page) return "Planning…";
  if (page.ended) return "The time ran out before a plan was found. Nothing has changed.";
  return "Nothing can be moved until a hold gives way.";
}
