import { useMemo } from "react";

import { WorkScreen } from "../frame/WorkScreen";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { showSelected } from "../pack/focus";
import { Notice } from "../words/Notice";
import { WorkProgress } from "../words/WorkProgress";
import { IssuedBefore, SinceIssue } from "./EarlierIssues";
import { LastChecks, Mark } from "./LastChecks";
import { IssueFiles } from "./IssueFiles";
import { Signatures } from "./Signatures";
import type { Issuing } from "./useIssue";
import { useIssue } from "./useIssue";

/** Issue: what leaves the desk, checked, frozen and numbered. */
export function Issue() {
  const { pack, says, problem } = usePack();
  const { setProblem } = usePackControls();
  const issuing = useIssue();
  const { page, error, saying, say, withdraw } = issuing;
  const actions = useIssueActions(issuing);
  const holding = page?.checks.filter((check) => check.open.length === 0).length ?? 0;
  return (
    <WorkScreen
      title="Issue"
      says={says || "Check, freeze and number what goes out"}
      actions={actions}
      margin={
        <>
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          {page?.since ? <SinceIssue since={page.since} /> : null}
          {page ? <IssuedBefore issued={page.issued} onWithdraw={withdraw} /> : null}
          <section>
            <h2 className="text-[12px] font-semibold text-soft">What an issue is</h2>
            <p className="text-soft">
              A frozen copy of this edition: its amounts, rules, nudges and files, each with its digest. It is
              verified before it gets its number, and never changed. <code>humble-sum verify</code> makes
              every file again from its container alone, and <code>humble-sum seal</code> signs it.
            </p>
          </section>
        </>
      }
      footer={
        page ? (
          <>
            <p>
              <strong className="font-semibold">Issue</strong>{" "}
              <span className="text-soft">
                {holding} of {page.checks.length} checks hold
              </span>
            </p>
            <p className="flex gap-2">
              {page.checks.map((check) => (
                <span key={check.id} title={check.says}>
                  <Mark open={check.open.length + check.more} />
                </span>
              ))}
            </p>
          </>
        ) : (
          ""
        )
      }
    >
      {error ? <p role="alert">{error.message}</p> : null}
      {page ? (
        <article className="border border-hairline bg-paper px-7 py-5">
          <h2 className="font-serif text-[19px] font-semibold">
            {page.edition_name} edition, issue {page.number}
          </h2>
          <p className="border-b border-ink pb-2 font-serif text-soft">
            {pack.entity}, {pack.period}
            {page.unit ? `, in ${page.unit}` : ""}
          </p>
          <LastChecks
            checks={page.checks}
            reasons={saying.reasons}
            onReason={(check, reason) => say({ reasons: { ...saying.reasons, [check]: reason } })}
          />
          {issuing.progress ? (
            <WorkProgress doing="Making:" progress={issuing.progress} onStop={issuing.stop} />
          ) : null}
          <div className="grid grid-cols-1 gap-8 pt-3 lg:grid-cols-2">
            <IssueFiles page={page} issuing={issuing} />
            <Signatures issuing={issuing} />
          </div>
        </article>
      ) : null}
    </WorkScreen>
  );
}

function useIssueActions(issuing: Issuing): Action[] {
  const { page, issue, busy } = issuing;
  const { act, go } = usePackControls();
  return useMemo(
    () => [
      {
        name: "To the page",
        key: "t",
        button: "To the page",
        run: () => {
          go({ screen: "page" });
          showSelected();
        },
      },
      {
        name: "Compare with the last issue",
        key: "c",
        run: () => document.getElementById("since")?.scrollIntoView(),
        off: !page?.since,
        ...(page?.since ? { button: `Compare with issue ${page.since.number}` } : {}),
      },
      {
        name: "Issue it",
        key: "i",
        button: page ? `Issue it as number ${page.number}` : "Issue it",
        main: true,
        off: !page,
        busy,
        run: issue,
      },
      { name: "Undo", key: "u", run: () => act("undo") },
      { name: "Redo", key: "U", run: () => act("redo") },
    ],
    [page, issue, busy, act, go],
  );
}
