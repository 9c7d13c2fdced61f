import { useQuery } from "@tanstack/react-query";
import { useCallback, useEffect, useMemo, useRef, useState } from "react";

import type { PackView, Problem, RuleView } from "../api/client";
import type { Deed } from "../api/queries";
import { rulebookQuery, useDeeds } from "../api/queries";
import type { Trial } from "../api/trials";
import { together, triedOf, useTrial } from "../api/trials";
import { useKeys } from "../desk/useKeys";
import type { Work } from "../desk/WorkScreen";
import { WorkScreen } from "../desk/WorkScreen";
import { showSelected } from "../page/Page";
import { Button } from "../ui/Button";
import { Notice } from "../ui/Notice";
import { AddRule } from "./AddRule";
import { Locales } from "./Locales";
import { RuleCard } from "./RuleCard";
import { RuleInHand } from "./RuleInHand";
import { TrialCard } from "./TrialCard";

interface Props extends Work {
  chosen: string | null;
  trial: Trial | null;
  onTrial: (trial: Trial | null) => void;
}

const NOWHERE = null;
const NO_ROWS = (): [number, number] => [0, 80];

/** The rulebook: rules as sentences from broad to narrow, each change first a trial. */
export function Rulebook({ pack, statement, packs, chosen, go, onTake, trial, onTrial }: Props) {
  const where = useMemo(() => ({ pack: pack.id, statement }), [pack.id, statement]);
  const tried = useMemo(() => triedOf(trial, pack), [trial, pack]);
  const book = useQuery(rulebookQuery(pack.id, pack.revision, tried)).data;
  const setChosen = useCallback((rule: string) => go({ rule }), [go]);
  const [adding, setAdding] = useState(false);
  const [comparing, setComparing] = useState(false);
  const [says, setSays] = useState("Narrower rules win, then later ones, clause by clause");
  const [problem, setProblem] = useState<Problem | null>(null);
  const onRefusal = useCallback((refusal: { problem: Problem }) => setProblem(refusal.problem), []);
  const onDone = useCallback((said: string) => {
    setSays(said);
    setProblem(null);
  }, []);
  const deeds = useDeeds(where, NOWHERE, NO_ROWS, onRefusal, onDone);
  const onTried = useCallback(
    (made: Trial | null) => {
      setProblem(null);
      onTrial(made);
    },
    [onTrial],
  );
  const trying = useTrial({
    pack,
    statement,
    trial,
    inView: NO_ROWS,
    onTrial: onTried,
    onOther: deeds.mutate,
    onRefusal,
  });
  const act = useCallback(
    (deed: Deed) => {
      if (deed === "undo" && trial) trying.mutate("back");
      else if (typeof deed === "string") deeds.mutate(deed);
      else trying.mutate(deed);
    },
    [deeds, trial, trying],
  );
  const keep = useCallback(() => {
    const change = trial && together(trial.changes);
    // The trial stays in view until the change is kept.
    if (change) deeds.mutate(change, { onSuccess: () => onTrial(null) });
  }, [deeds, onTrial, trial]);

  const rules = book?.rules ?? [];
  const at = rules.findIndex((rule) => rule.id === chosen);
  const rule: RuleView | undefined = rules[at < 0 ? 0 : at];
  const place = Math.max(at, 0);
  const choose = (to: number) => {
    const next = rules[Math.min(Math.max(to, 0), rules.length - 1)];
    if (!next) return;
    setChosen(next.id);
    showRule(next.id);
  };
  // The focus begins at the rule in hand, and goes to a new one.
  const known = useRef<string[] | null>(null);
  useEffect(() => {
    if (!book) return;
    const ids = book.rules.map((each) => each.id);
    const fresh = known.current && ids.find((id) => !known.current?.includes(id));
    const first = known.current === null ? (chosen ?? ids[0]) : fresh;
    known.current = ids;
    if (!first) return;
    if (fresh) setChosen(fresh);
    showRule(first);
  }, [book, chosen, setChosen]);
  const toPage = useCallback(() => {
    go({ screen: "page" });
    showSelected();
  }, [go]);
  const keys = useMemo(
    () => ({
      a: () => setAdding(true),
      k: keep,
      d: () => onTrial(null),
      l: () => setComparing(true),
      t: toPage,
      u: () => act("undo"),
      U: () => act("redo"),
    }),
    [act, keep, onTrial, toPage],
  );
  useKeys(keys);

  const file = (chosenFile: File) =>
    void chosenFile.text().then((text) => {
      try {
        const rulebook = JSON.parse(text) as Record<string, unknown>;
        act({ kind: "use_rulebook", statement, rulebook });
      } catch {
        setProblem({
          type: "about:blank",
          title: "This is not a rulebook",
          status: 422,
          detail: `${chosenFile.name} is not JSON.`,
          faults: [],
        });
      }
    });

  return (
    <WorkScreen
      pack={pack}
      packs={packs}
      statement={statement}
      go={go}
      onTake={onTake}
      act={act}
      screen="rulebook"
      title="Rulebook"
      says={says}
      actions={
        <>
          <Button shortcut="l" onClick={() => setComparing(true)}>
            Locales
          </Button>
          <Button shortcut="t" onClick={toPage}>
            {trial ? "See it on the page" : "To the page"}
          </Button>
          <Button main shortcut="a" onClick={() => setAdding(true)}>
            Add a rule
          </Button>
        </>
      }
      margin={
        <>
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          {trial ? (
            <TrialCard
              pack={pack.id}
              statement={statement}
              trial={trial}
              at={null}
              onSee={(changed) =>
                go({
                  screen: "page",
                  statement: changed.statement,
                  place: { line: changed.line, column: changed.column },
                })
              }
              onKeep={keep}
              onDrop={() => onTrial(null)}
            />
          ) : null}
          {rule ? (
            <RuleInHand
              rule={rule}
              place={place}
              count={rules.length}
              onOwn={(amounts) => deeds.mutate({ kind: "set_specimens", statement, amounts })}
            />
          ) : null}
        </>
      }
      footer={`${gapsOf(pack)} gaps under these rules${trial ? `, ${trial.view.gaps} with the change on trial` : ""}`}
    >
      {adding && book ? (
        <AddRule
          pack={pack}
          kinds={book.kinds}
          statement={statement}
          onAdd={(change) => {
            setAdding(false);
            act(change);
          }}
          onClose={() => setAdding(false)}
        />
      ) : null}
      <ol className="space-y-2.5">
        {rules.map((each, number) => (
          <RuleCard
            key={each.id}
            rule={each}
            most={book?.most ?? 0}
            chosen={each.id === rule?.id}
            first={number === 0}
            last={number === rules.length - 1}
            onChoose={() => setChosen(each.id)}
            onStep={(by) => choose(place + by)}
            onMove={(by) => {
              const before = by < 0 ? rules[number - 1] : rules[number + 2];
              act({ kind: "move_rule", statement, rule: each.id, before: before?.id ?? null });
            }}
            onDuplicate={() => act({ kind: "duplicate_rule", statement, rule: each.id })}
            onSwitch={() => act({ kind: "edit_rule", statement, rule: each.id, off: !each.off })}
            onRemove={() => act({ kind: "remove_rule", statement, rule: each.id })}
            onClause={(clause, value) =>
              act({ kind: "set_rule_clause", statement, rule: each.id, clause, value })
            }
            onDropClause={(clause) => act({ kind: "drop_clause", statement, rule: each.id, clause })}
          />
        ))}
      </ol>
      <Styles
        styles={book?.styles ?? []}
        pack={pack.id}
        onStyle={(style) => act({ kind: "use_style", statement, style })}
        onFile={file}
      />
      {comparing && rule ? (
        <Locales
          pack={pack.id}
          revision={pack.revision}
          rule={rule}
          trial={tried}
          onChoose={(tag) => {
            setComparing(false);
            act({ kind: "set_rule_clause", statement, rule: rule.id, clause: "locale", value: tag });
          }}
          onClose={() => setComparing(false)}
        />
      ) : null}
    </WorkScreen>
  );
}

/** Brings a rule into view, with the focus on its name. */
function showRule(id: string): void {
  const card = document.getElementById(`rule-${id}`);
  card?.scrollIntoView({ block: "nearest" });
  card?.querySelector("button")?.focus({ preventScroll: true });
}

function gapsOf(pack: PackView): number {
  return pack.statements.reduce((sum, each) => sum + each.gaps, 0);
}

interface StylesProps {
  styles: { id: string; label: string }[];
  pack: string;
  onStyle: (style: string) => void;
  onFile: (file: File) => void;
}

/** House styles to start from, and rulebook files in and out. */
function Styles({ styles, pack, onStyle, onFile }: StylesProps) {
  return (
    <section aria-label="Styles and files" className="flex flex-wrap items-center gap-2 pt-2">
      <span className="text-soft">Start from a house style:</span>
      {styles.map((style) => (
        <Button key={style.id} className="px-2! py-0.5!" onClick={() => onStyle(style.id)}>
          {style.label}
        </Button>
      ))}
      <a
        className="rounded-md border border-hairline bg-paper px-2 py-0.5 font-medium hover:border-teal"
        href={`/api/packs/${pack}/rulebook/file`}
        download
      >
        Rulebook file
      </a>
      <label className="relative rounded-md border border-hairline bg-paper px-2 py-0.5 font-medium focus-within:outline-2 hover:border-teal">
        Use a rulebook file…
        <input
          type="file"
          accept=".json,application/json"
          className="sr-only"
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            if (chosen) onFile(chosen);
            event.target.value = "";
          }}
        />
      </label>
    </section>
  );
}
