import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useRef, useState } from "react";

import type { CheckView, PackName, PackView, Problem, ProofView } from "../api/client";
import type { Deed, Place } from "../api/queries";
import { proofQuery, useDeeds } from "../api/queries";
import type { Trial } from "../api/trials";
import { together, triedOf, useTrial } from "../api/trials";
import { Margin } from "../margin/Margin";
import { Tying } from "../margin/Tying";
import { cycle, stepDecimals } from "../margin/choosing";
import type { Drop } from "../page/dragging";
import { Page, showFigure, showSelected } from "../page/Page";
import { Rail } from "../rail/Rail";
import { Spine } from "../spine/Spine";
import type { Address } from "./address";
import { AllKeys } from "./AllKeys";
import { Find } from "./Find";
import { TopBar } from "./TopBar";
import { useKeys, useWayBack } from "./useKeys";

interface Props {
  pack: PackView;
  statement: string;
  packs: PackName[];
  address: Address;
  go: (to: Partial<Address>) => void;
  onTake: (file: File) => void;
  trial: Trial | null;
  onTrial: (trial: Trial | null) => void;
  trying: boolean;
  onTrying: (trying: boolean) => void;
  problem: Problem | null;
  onProblem: (problem: Problem | null) => void;
}

/** Spine, page, margin and rail, and the keys that act on them. */
export function Desk(props: Props) {
  const {
    pack,
    statement,
    packs,
    address,
    go,
    onTake,
    trial,
    onTrial,
    trying,
    onTrying,
    problem,
    onProblem,
  } = props;
  const tried = useMemo(() => triedOf(trial, pack), [trial, pack]);
  const where = useMemo(() => ({ pack: pack.id, statement, trial: tried }), [pack.id, statement, tried]);
  // The page as it was stays in view until the one on trial has come.
  const kept = useQuery(proofQuery({ ...where, trial: null })).data;
  const proof = useQuery({ ...proofQuery(where), enabled: tried !== null }).data ?? kept;
  // On a large page a rule on trial may change every figure, which leaves nothing to compare.
  const foots = trial?.changes.some(({ kind }) => kind === "foot") ?? false;
  const compared = tried && kept && (foots || !kept.large) ? kept : null;
  const [seen, setSeen] = useState<number | null>(null);
  const [copied, setCopied] = useState<Place | null>(null);
  const [says, setSays] = useState("");
  const [chosenCheck, setChosenCheck] = useState<string | null>(null);
  const [until, setUntil] = useState<string | null>(null);
  const [naming, setNaming] = useState(false);
  const [sheet, setSheet] = useState<"keys" | "find" | "tie" | null>(null);
  const margin = useRef<HTMLElement>(null);
  const rows = useRef<[number, number]>([0, 80]);
  const inView = useCallback(() => rows.current, []);
  const onView = useCallback((seen: [number, number]) => {
    rows.current = seen;
  }, []);
  const extending = useRef(false);

  const onRefusal = useCallback((refusal: { problem: Problem }) => onProblem(refusal.problem), [onProblem]);
  const onDone = useCallback(
    (said: string) => {
      setSays(said);
      onProblem(null);
    },
    [onProblem],
  );
  const gaps = useMemo(
    () => proof?.checks.filter((check) => check.status === "gap" || check.status === "break") ?? [],
    [proof],
  );
  const place = useMemo(() => {
    const named = address.place;
    const known =
      proof?.lines.some((line) => line.id === named?.line && line.figured) &&
      proof.columns.some((column) => column.id === named?.column);
    if (named && known) return named;
    const first = gaps[0];
    if (first) return { line: first.line, column: first.column };
    const line = proof?.lines.find((each) => each.figured);
    const column = proof?.columns[0];
    return line && column ? { line: line.id, column: column.id } : null;
  }, [address.place, proof, gaps]);

  const active = useMemo(() => {
    const here = proof?.checks.filter((c) => c.line === place?.line && c.column === place.column) ?? [];
    return here.find((c) => c.id === chosenCheck) ?? here.find((c) => c.status !== "foots") ?? here[0];
  }, [proof, place, chosenCheck]);

  const deeds = useDeeds(where, place, inView, onRefusal, onDone);

  const chosen = useMemo(() => linesBetween(proof, until, place), [proof, until, place]);
  const select = useCallback(
    (to: Place) => {
      setChosenCheck(null);
      if (!extending.current) setUntil(null);
      extending.current = false;
      go({ place: to });
    },
    [go],
  );
  const visit = useCallback(
    (check: CheckView) => {
      setChosenCheck(check.id);
      go({ place: { line: check.line, column: check.column } });
      showFigure(check);
    },
    [go],
  );
  const step = useCallback(
    (by: 1 | -1) => {
      if (gaps.length === 0) {
        setSays("Every sum on this page foots");
        return;
      }
      const at = gaps.findIndex((check) => check.id === active?.id);
      const next = gaps[at < 0 ? (by > 0 ? 0 : gaps.length - 1) : (at + by + gaps.length) % gaps.length];
      if (next) visit(next);
    },
    [gaps, active, visit],
  );

  const onTried = useCallback(
    (made: Trial | null) => {
      setSeen(null);
      onTrial(made);
      onProblem(null);
    },
    [onProblem, onTrial],
  );
  const trier = useTrial({
    pack,
    statement,
    trial,
    inView,
    onTrial: onTried,
    onOther: deeds.mutate,
    onRefusal,
  });
  const { mutate: tryOut } = trier;
  const { mutate: keep } = deeds;
  const testing = trial !== null;
  const first = trying || testing;
  const act = useCallback(
    (deed: Deed) => {
      if (deed === "undo" && testing) tryOut("back");
      else if (!first || typeof deed === "string") keep(deed);
      else tryOut(deed);
    },
    [first, keep, testing, tryOut],
  );
  const keepTrial = useCallback(() => {
    const change = trial && together(trial.changes);
    // The trial stays in view until the change is kept.
    if (change) keep(change, { onSuccess: () => onTrial(null) });
  }, [keep, onTrial, trial]);
  const held = useMemo(() => {
    const line = proof?.lines.find((each) => each.id === place?.line);
    return line?.figures.find((figure) => figure.column === place?.column)?.held ?? false;
  }, [proof, place]);

  const toggleHold = useCallback(() => {
    if (!place) return;
    act(
      held
        ? { kind: "release", statement, figures: [[statement, place.line, place.column]] }
        : { kind: "hold", statement, ...place, reason: "" },
    );
  }, [act, held, place, statement]);
  const extend = useCallback(() => {
    extending.current = true;
    setUntil((from) => from ?? place?.line ?? null);
  }, [place]);
  const moveLine = useCallback(
    (by: 1 | -1) => {
      const lines = proof?.lines ?? [];
      const at = lines.findIndex((line) => line.id === place?.line);
      const before = by < 0 ? lines[at - 1] : lines[at + 2];
      if (!place || at < 0 || (by < 0 && !before) || (by > 0 && at + 1 >= lines.length)) return;
      act({ kind: "move_line", statement, line: place.line, before: before?.id ?? null });
      showFigure(place);
    },
    [act, place, proof, statement],
  );
  const drop = useCallback(
    (line: string, { line: onto, how }: Drop) => {
      if (how === "onto") {
        act({ kind: "make_part", statement, line, total: onto, sign: 1 });
        return;
      }
      const lines = proof?.lines ?? [];
      const at = lines.findIndex((each) => each.id === onto);
      const before = how === "before" ? onto : (lines[at + 1]?.id ?? null);
      if (before !== line) act({ kind: "move_line", statement, line, before });
    },
    [act, proof, statement],
  );
  const foot = useCallback(() => act({ kind: "foot", statement }), [act, statement]);

  const toggleTrying = useCallback(() => {
    onTrying(!trying);
    setSays(trying ? "Changes are kept at once" : "Changes of rules are tried first");
  }, [onTrying, trying]);
  const openRule = useCallback((rule: string) => go({ screen: "rulebook", rule }), [go]);
  const openTying = useCallback(() => setSheet("tie"), []);
  const openFigure = useCallback(
    (owner: string, line: string, column: string) => {
      setUntil(null);
      go({ statement: owner, place: { line, column } });
      showFigure({ line, column });
    },
    [go],
  );
  const openSentence = useCallback(() => {
    margin.current?.querySelector<HTMLElement>("[data-word]")?.focus();
  }, []);
  const line = place?.line;
  const hand = useMemo(() => (chosen.size > 0 ? [...chosen] : line ? [line] : []), [chosen, line]);

  const keys = useMemo(() => {
    const clause = (name: string) => () => {
      if (place) act({ place, from: (figure) => cycle(figure, statement, name) });
    };
    const decimals = (by: 1 | -1) => () => {
      if (place) act({ place, from: (figure) => stepDecimals(figure, statement, by) });
    };
    return {
      n: () => step(1),
      p: () => step(-1),
      f: foot,
      h: toggleHold,
      u: () => act("undo"),
      U: () => act("redo"),
      "1": () => go({ lens: "print" }),
      "2": () => go({ lens: "exact" }),
      "3": () => go({ lens: "drift" }),
      "[": decimals(-1),
      "]": decimals(1),
      b: clause("negative"),
      z: clause("zero"),
      s: clause("scale"),
      "4": () => go({ lens: "origin" }),
      t: toggleTrying,
      k: keepTrial,
      d: () => onTrial(null),
      y: () => {
        setCopied(place);
        setSays("The clauses of this line are copied; v gives them to the chosen lines");
      },
      v: () => {
        if (!copied || !place) return;
        const figure: [string, string, string] = [statement, copied.line, copied.column];
        act({ kind: "copy_clauses", statement, figure, lines: hand });
      },
      g: () => setNaming(true),
      m: () => openWord(margin.current?.querySelector<HTMLElement>("[data-word=total]")),
      "-": () => {
        if (place) act({ kind: "flip_sign", statement, line: place.line });
      },
      "=": () => {
        if (place) setSheet("tie");
      },
      "?": () => setSheet("keys"),
      "/": () => setSheet("find"),
    };
  }, [act, hand, copied, foot, go, keepTrial, onTrial, place, statement, step, toggleHold, toggleTrying]);
  useKeys(keys);
  useWayBack(showSelected);

  if (!proof) return <p className="p-10">Opening…</p>;
  return (
    <div className="desk grid h-full grid-cols-[152px_minmax(0,1fr)_288px] grid-rows-[46px_minmax(0,1fr)_62px] xl:grid-cols-[190px_minmax(0,1fr)_336px] min-[1700px]:grid-cols-[230px_minmax(0,1fr)_420px] print:block">
      <Spine
        pack={pack}
        packs={packs}
        statement={statement}
        act={act}
        onStatement={(id) => go({ statement: id, place: null })}
        onPack={(id) => go({ pack: id, statement: null, place: null })}
        onTake={onTake}
        onGo={(screen) => go({ screen })}
      />
      <TopBar
        name={proof.name}
        says={says}
        lens={address.lens}
        onLens={(lens) => {
          setSays("");
          go({ lens });
        }}
        onNext={() => step(1)}
        onFoot={foot}
        onFind={() => setSheet("find")}
        onKeys={() => setSheet("keys")}
        gaps={gaps.length}
        busy={deeds.isPending}
      />
      <Page
        where={where}
        proof={proof}
        before={compared}
        place={place}
        chosen={chosen}
        lens={address.lens}
        onSelect={select}
        onExtend={extend}
        onMove={moveLine}
        onDrop={drop}
        onView={onView}
        onOpen={openSentence}
      />
      <Margin
        ref={margin}
        trial={trial}
        seen={seen}
        trying={trying}
        onTrying={toggleTrying}
        onSeen={(changed, at) => {
          setSeen(at);
          const to = { line: changed.line, column: changed.column };
          go({ statement: changed.statement, place: to });
          showFigure(to);
        }}
        onKeep={keepTrial}
        onDrop={() => onTrial(null)}
        where={where}
        place={place}
        proof={proof}
        revision={pack.revision}
        act={act}
        chosen={hand}
        naming={naming}
        onNaming={setNaming}
        onHold={toggleHold}
        onTie={openTying}
        onFigure={openFigure}
        onSelect={(to) => {
          select(to);
          showFigure(to);
        }}
        onRule={openRule}
        onLeave={() => place && showFigure(place)}
        problem={problem}
        onProblem={onProblem}
      />
      <Rail proof={proof} active={active?.id ?? null} onVisit={visit} />
      <AllKeys open={sheet === "keys"} onClose={() => setSheet(null)} />
      {sheet === "tie" && place ? (
        <Tying
          where={where}
          place={place}
          revision={pack.revision}
          act={act}
          onClose={() => setSheet(null)}
        />
      ) : null}
      {sheet === "find" ? (
        <Find
          open
          onClose={() => setSheet(null)}
          pack={pack}
          proof={proof}
          deeds={[
            { name: "Foot the pack", key: "f", run: foot },
            { name: "Next gap", key: "n", run: () => step(1) },
            { name: "Previous gap", key: "p", run: () => step(-1) },
            {
              name: held ? "Release the figure in hand" : "Hold the figure in hand",
              key: "h",
              run: toggleHold,
            },
            { name: "Tie the figure in hand to another", key: "=", run: openTying },
            { name: "Put lines under a subtotal", key: "g", run: () => setNaming(true) },
            { name: "Undo", key: "u", run: () => act("undo") },
            { name: "Redo", key: "shift+u", run: () => act("redo") },
            { name: "Print lens", key: "1", run: () => go({ lens: "print" }) },
            { name: "Exact lens", key: "2", run: () => go({ lens: "exact" }) },
            { name: "Drift lens", key: "3", run: () => go({ lens: "drift" }) },
            { name: "Origin lens", key: "4", run: () => go({ lens: "origin" }) },
            { name: "Rulebook", key: "", run: () => go({ screen: "rulebook" }) },
            { name: "Footing", key: "", run: () => go({ screen: "footing" }) },
            { name: "All keys", key: "?", run: () => setSheet("keys") },
          ]}
          onPlace={(to) => {
            select(to);
            showFigure(to);
          }}
          onStatement={(id) => go({ statement: id, place: null })}
        />
      ) : null}
    </div>
  );
}

/** The lines chosen with shift and the arrows: from where it began to the figure in hand. */
function linesBetween(proof: ProofView | undefined, from: string | null, to: Place | null): Set<string> {
  const lines = proof?.lines ?? [];
  const ends = [from, to?.line].map((id) => lines.findIndex((line) => line.id === id));
  if (from === null || ends.some((end) => end < 0)) return new Set();
  const between = lines.slice(Math.min(...ends), Math.max(...ends) + 1);
  return new Set(between.filter((line) => line.figured).map((line) => line.id));
}

/** Opens a word of a sentence as Enter does. */
function openWord(word: HTMLElement | null | undefined): void {
  word?.focus();
  word?.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
}
