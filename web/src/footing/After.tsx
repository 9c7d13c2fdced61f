import { useEffect, useRef } from "react";

import type { FootingPageView } from "../api/client";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";

const MOST_NAMED = 8; // figures that would go back to their own rounding

export type Held = FootingPageView["held"][number];

interface Props {
  page: FootingPageView;
  onRelease: () => void;
  onOther: (hold: Held) => void;
  onPolicy: (policy: FootingPageView["policy"]) => void;
  onAnswer: (kind: "rounding_lines" | "leave_gaps") => void;
  onVisit: (statement: string, line: string, column: string) => void;
}

/** How the pack would stand after footing, what is held, and what cannot be. */
export function After({ page, onRelease, onOther, onPolicy, onAnswer, onVisit }: Props) {
  const { after, impossible, held, breaks } = page;
  // The way out has the focus where nothing else does, so that it is one key away.
  const way = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (impossible && document.activeElement === document.body) way.current?.focus();
  }, [impossible]);
  return (
    <>
      {impossible ? (
        <section role="alert" className="rounded-md border border-rust bg-rust-wash p-3">
          <h2 className="font-semibold text-rust">No plan can keep every hold</h2>
          <p>These cannot all add: {impossible.conflict.join("; ")}.</p>
          {impossible.release ? (
            <Button
              main
              ref={way}
              shortcut="r"
              className="mt-2 text-left whitespace-normal!"
              onClick={onRelease}
            >
              Release {impossible.release.map((each) => each.label).join(" and ")}
            </Button>
          ) : (
            <p>No hold is to blame; print with more decimals.</p>
          )}
          {impossible.others.length > 0 ? <h3 className="mt-2 font-semibold">Other ways</h3> : null}
          <ul className="mt-1 space-y-1">
            {impossible.others.map(({ says, release, policy }) => (
              <li key={says}>
                <Choice
                  onClick={() => {
                    if (release) onOther(release);
                    else if (policy) onPolicy(policy);
                  }}
                >
                  {says}
                </Choice>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      {after ? (
        <section aria-labelledby="after">
          <h2 id="after" className="mb-1 text-[12px] font-semibold text-soft">
            {page.kept ? "As it is footed" : "After footing"}
          </h2>
          <dl>
            <Row name="Sums" value={`${after.foots} of ${after.relations} foot`} />
            <Row name="Ties" value={`${after.ties_agree} of ${after.ties} agree`} />
            <Row name="Moved" value={after.moved === 1 ? "1 figure" : `${after.moved} figures`} />
            <Row name="Farthest" value={`${after.farthest} units from exact`} />
            <Row name="Drift added" value={`${after.added_drift} units`} />
            <Row name={after.proved ? "Proved" : "Not proved"} value={after.proof} />
          </dl>
          {after.leaves.length > 0 ? (
            <p className="mt-1 text-soft">
              No longer nudged: {after.leaves.slice(0, MOST_NAMED).join("; ")}
              {after.leaves.length > MOST_NAMED ? ` and ${after.leaves.length - MOST_NAMED} more` : ""}.
            </p>
          ) : null}
        </section>
      ) : null}
      <section aria-labelledby="held">
        <h2 id="held" className="mb-1 flex justify-between text-[12px] font-semibold text-soft">
          Held <span>{held.length}</span>
        </h2>
        {held.length === 0 ? (
          <p className="text-soft">Nothing is held. h holds a figure on the page.</p>
        ) : null}
        <ul className="space-y-1">
          {held.map((each) => (
            <li key={`${each.statement} ${each.line} ${each.column}`}>
              <Choice
                detail={each.reason ? `${each.printed}, ${each.reason}` : each.printed}
                onClick={() => onVisit(each.statement, each.line, each.column)}
              >
                {each.label}
              </Choice>
            </li>
          ))}
        </ul>
      </section>
      <section aria-labelledby="breaks">
        <h2 id="breaks" className="mb-1 flex justify-between text-[12px] font-semibold text-soft">
          Source breaks <span>{breaks.length === 0 ? "none" : breaks.length}</span>
        </h2>
        {breaks.length === 0 ? (
          <p className="text-soft">
            Exact amounts add up in every sum, so each gap comes from rounding alone.
          </p>
        ) : (
          <ul className="list-disc space-y-1 pl-4 text-rust">
            {breaks.map(({ says, suspects }) => (
              <li key={says}>
                {says}
                {suspects.map((said) => (
                  <span key={said} className="block text-[12.5px] text-soft">
                    {said}
                  </span>
                ))}
              </li>
            ))}
          </ul>
        )}
      </section>
      {page.answers.length > 0 ? (
        <section aria-labelledby="answers">
          <h2 id="answers" className="mb-1 text-[12px] font-semibold text-soft">
            Other ways than nudging
          </h2>
          <ul className="space-y-1">
            {page.answers.map(({ kind, says, detail }) => (
              <li key={kind}>
                <Choice detail={detail} onClick={() => onAnswer(kind)}>
                  {says}
                </Choice>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
    </>
  );
}

function Row({ name, value }: { name: string; value: string }) {
  return (
    <div className="flex justify-between gap-3 py-0.5">
      <dt className="text-soft">{name}</dt>
      <dd className="text-right">{value}</dd>
    </div>
  );
}
