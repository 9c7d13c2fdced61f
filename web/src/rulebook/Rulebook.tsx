import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";

import type { RulebookView, RuleView } from "../api/client";
import { rulebookQuery } from "../api/queries";
import { WorkScreen } from "../frame/WorkScreen";
import { TrialCard } from "../margin/TrialCard";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { showSelected } from "../pack/focus";
import { Button } from "../ui/Button";
import { Notice } from "../words/Notice";
import { AddRule } from "./AddRule";
import { HouseStyles } from "./HouseStyles";
import { Locales } from "./Locales";
import { RuleCard } from "./RuleCard";
import { SelectedRule } from "./SelectedRule";
import { showRule } from "./showRule";
import { Styles } from "./Styles";

const NO_RULES: RuleView[] = [];

/** The rulebook: rules as sentences from broad to narrow, each change first a trial. */
export function Rulebook() {
  const { pack, tried, trial, address, says, problem } = usePack();
  const { go, tryOut, keep, setProblem } = usePackControls();
  const book = useQuery(rulebookQuery(pack.id, pack.revision, tried)).data;
  const [adding, setAdding] = useState(false);
  const [comparing, setComparing] = useState(false);
  const rules = book?.rules ?? NO_RULES;
  const at = rules.findIndex((rule) => rule.id === address.rule);
  const place = Math.max(at, 0);
  const rule = rules[place];
  useFocusOnNewRules(book);
  const actions = useRulebookActions(
    () => setAdding(true),
    () => setComparing(true),
  );
  const choose = (to: number) => {
    const next = rules[Math.min(Math.max(to, 0), rules.length - 1)];
    if (!next) return;
    go({ rule: next.id });
    showRule(next.id);
  };
  const gaps = pack.statements.reduce((sum, each) => sum + each.gaps, 0);
  return (
    <WorkScreen
      title="Rulebook"
      says={says || "Narrower rules win, then later ones, clause by clause"}
      actions={actions}
      margin={
        <>
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          {trial ? <TrialCard trial={trial} /> : null}
          {rule ? (
            <SelectedRule rule={rule} place={place} count={rules.length} onOwn={(own) => keep(own)} />
          ) : null}
        </>
      }
      footer={`${gaps} gaps under these rules${trial ? `, ${trial.view.gaps} with the change on trial` : ""}`}
    >
      {adding && book ? <AddRule kinds={book.kinds} onClose={() => setAdding(false)} /> : null}
      {(book?.alike ?? []).map(({ label, change }) => (
        <p
          key={label}
          className="flex items-center gap-3 rounded-md border border-hairline bg-panel-light px-3 py-1.5"
        >
          <span className="min-w-0 flex-1">{label} say the same.</span>
          <Button className="px-2! py-0.5!" onClick={() => tryOut(change)}>
            Merge into one rule
          </Button>
        </p>
      ))}
      <ol className="space-y-2.5">
        {rules.map((each) => (
          <RuleCard
            key={each.id}
            rule={each}
            most={book?.most ?? 0}
            chosen={each.id === rule?.id}
            onChoose={() => go({ rule: each.id })}
            onStep={(by) => choose(place + by)}
          />
        ))}
      </ol>
      <Styles styles={book?.styles ?? []} />
      <HouseStyles />
      {comparing && rule ? (
        <Locales
          rule={rule}
          onChoose={(change) => {
            setComparing(false);
            tryOut(change);
          }}
          onClose={() => setComparing(false)}
        />
      ) : null}
    </WorkScreen>
  );
}

/** The focus begins at the rule in hand, and goes to a new one. */
function useFocusOnNewRules(book: RulebookView | undefined): void {
  const { address } = usePack();
  const { go } = usePackControls();
  const known = useRef<string[] | null>(null);
  const chosen = address.rule;
  useEffect(() => {
    if (!book) return;
    const ids = book.rules.map((each) => each.id);
    const fresh = known.current && ids.find((id) => !known.current?.includes(id));
    const first = known.current === null ? (chosen ?? ids[0]) : fresh;
    known.current = ids;
    if (!first) return;
    if (fresh) go({ rule: fresh });
    showRule(first);
  }, [book, chosen, go]);
}

function useRulebookActions(add: () => void, compare: () => void): Action[] {
  const { trial } = usePack();
  const { go, act, keepTrial, dropTrial } = usePackControls();
  const tried = trial !== null;
  return useMemo(
    () => [
      { name: "Locales side by side", key: "l", button: "Locales", run: compare },
      {
        name: tried ? "See the trial on the page" : "To the page",
        key: "t",
        button: tried ? "See it on the page" : "To the page",
        run: () => {
          go({ screen: "page" });
          showSelected();
        },
      },
      { name: "Add a rule", key: "a", button: "Add a rule", main: true, run: add },
      { name: "Keep the trial", key: "k", off: !tried, run: keepTrial },
      { name: "Drop the trial", key: "d", off: !tried, run: dropTrial },
      { name: "Undo", key: "u", run: () => act("undo") },
      { name: "Redo", key: "U", run: () => act("redo") },
    ],
    // The two openers only set a state.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [act, dropTrial, go, keepTrial, tried],
  );
}
