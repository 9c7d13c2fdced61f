import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import type { FootingPageView, Problem } from "../api/client";
import type { Deed } from "../api/queries";
import { useDeeds } from "../api/queries";
import type { Trial } from "../api/trials";
import { useTrial } from "../api/trials";
import { useKeys } from "../desk/useKeys";
import type { Work } from "../desk/WorkScreen";
import { WorkScreen } from "../desk/WorkScreen";
import { showFigure, showSelected } from "../page/Page";
import { Button } from "../ui/Button";
import { Notice } from "../ui/Notice";
import type { Held } from "./After";
import { After } from "./After";
import { Moves } from "./Moves";
import type { Apart } from "./Plan";
import { Plan } from "./Plan";
import { Relations } from "./Relations";
import { usePlanning } from "./usePlanning";

interface Props extends Work {
  trial: Trial | null;
  onTrial: (trial: Trial | null) => void;
}

type Policy = FootingPageView["policy"];
const NONE: Apart = {};
type Relation = FootingPageView["relations"][number]["relations"][number];

const NOWHERE = null;
const NO_ROWS = (): [number, number] => [0, 80];

/** Footing: every relation in words, the plan as a sentence, and what it would move. */
export function Footing({ pack, statement, packs, go, onTake, trial, onTrial }: Props) {
  const [policy, setPolicy] = useState<Policy | null>(null);
  const [apart, setApart] = useState<Apart>(NONE);
  const { page, error, progress, stop, end } = usePlanning(pack, policy, apart);
  // The best plan so far is kept as soon as the search has ended with it.
  const wanted = useRef(false);
  const [gapsOnly, setGapsOnly] = useState(true);
  const [says, setSays] = useState("");
  const [problem, setProblem] = useState<Problem | null>(null);
  const where = useMemo(() => ({ pack: pack.id, statement }), [pack.id, statement]);
  const onRefusal = useCallback((refusal: { problem: Problem }) => setProblem(refusal.problem), []);
  const onDone = useCallback((said: string) => {
    setSays(said);
    setProblem(null);
  }, []);
  const deeds = useDeeds(where, NOWHERE, NO_ROWS, onRefusal, onDone);
  const trier = useTrial({
    pack,
    statement,
    trial,
    inView: NO_ROWS,
    onTrial,
    onOther: deeds.mutate,
    onRefusal,
  });
  const act = useCallback((deed: Deed) => deeds.mutate(deed), [deeds]);
  const keep = useCallback(
    // Once it is kept it is the pack's own, and undo takes it back with its nudges.
    () =>
      page?.kept === false &&
      deeds.mutate(
        { kind: "foot", statement, policy, apart },
        {
          onSuccess: () => {
            setPolicy(null);
            setApart(NONE);
          },
        },
      ),
    [apart, deeds, page?.kept, policy, statement],
  );
  useEffect(() => {
    if (!wanted.current || progress) return;
    wanted.current = false;
    if (page?.after) keep();
  }, [keep, page, progress]);
  const toPage = useCallback(() => {
    go({ screen: "page" });
    showSelected();
  }, [go]);
  const compare = useCallback(() => {
    trier.mutate({ kind: "foot", statement, policy, apart }, { onSuccess: toPage });
  }, [apart, policy, statement, toPage, trier]);
  const free = useCallback(
    (holds: Held[]) => {
      const figures = holds.map((held): [string, string, string] => [held.statement, held.line, held.column]);
      act({ kind: "release", statement, figures });
    },
    [act, statement],
  );
  const release = useCallback(() => {
    const holds = page?.impossible?.release;
    if (holds) free(holds);
  }, [free, page]);
  const keys = useMemo(
    () => ({
      k: keep,
      c: compare,
      t: toPage,
      r: release,
      u: () => act("undo"),
      U: () => act("redo"),
    }),
    [act, compare, keep, release, toPage],
  );
  useKeys(keys);

  const visit = (to: string, line: string, column: string) => {
    go({ screen: "page", statement: to, place: { line, column } });
    showFigure({ line, column });
  };
  const open = (relation: Relation) => !gapsOnly || relation.marks.some((mark) => mark.status !== "foots");
  const shown = (page?.relations ?? [])
    .map((group) => ({ ...group, relations: group.relations.filter(open) }))
    .filter((group) => group.relations.length > 0);
  return (
    <WorkScreen
      pack={pack}
      packs={packs}
      statement={statement}
      go={go}
      onTake={onTake}
      act={act}
      screen="footing"
      title="Footing"
      says={says || (page ? gapsSaid(page.gaps) : "")}
      actions={
        <>
          <Button shortcut="t" onClick={toPage}>
            To the page
          </Button>
          <Button shortcut="c" disabled={!page?.after} onClick={compare}>
            Compare on the page
          </Button>
          <Button main shortcut="k" disabled={!page?.after || page.kept} onClick={keep}>
            {page?.kept ? "Kept" : "Keep these nudges"}
          </Button>
        </>
      }
      margin={
        <>
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          {page ? (
            <After
              page={page}
              onRelease={release}
              onOther={(held) => free([held])}
              onPolicy={setPolicy}
              onAnswer={(kind) =>
                act(kind === "leave_gaps" ? { kind, statement } : { kind, statement, label: "Rounding" })
              }
              onVisit={visit}
            />
          ) : null}
        </>
      }
      footer={page ? footer(page) : ""}
    >
      {page ? (
        <Plan
          page={page}
          onPolicy={setPolicy}
          onApart={(of, own) => setApart((plans) => ({ ...plans, [of]: own }))}
          onFigure={visit}
        />
      ) : null}
      {error ? <p role="alert">{error.message}</p> : null}
      {progress ? (
        <p role="status" className="flex items-center gap-3 text-soft">
          Still {progress.says}.
          {progress.done ? (
            <Button
              main
              className="px-2! py-0.5!"
              onClick={() => {
                wanted.current = true;
                end().catch(() => {
                  wanted.current = false;
                });
              }}
            >
              Keep this
            </Button>
          ) : null}
          <Button className="px-2! py-0.5!" onClick={stop}>
            Stop the search
          </Button>
        </p>
      ) : null}
      {page?.after ? (
        <Moves
          pack={pack.id}
          plans={{ policy: page.policy, apart }}
          moves={page.moves}
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
