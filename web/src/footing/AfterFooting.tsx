import type { Foot, FootingPageView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { Choice } from "../ui/Choice";
import { Impossible } from "./Impossible";

const MOST_NAMED = 8; // figures that would go back to their own rounding

interface Props {
  page: FootingPageView;
  /** Searches by the plans of a command; nothing is kept. */
  onPlan: (foot: Foot) => void;
  onVisit: (statement: string, line: string, column: string) => void;
}

/** How the pack would stand after footing, what is held, and what cannot be. */
export function AfterFooting({ page, onPlan, onVisit }: Props) {
  const { after, impossible, held, breaks } = page;
  const { keep } = usePackControls();
  return (
    <>
      {impossible ? <Impossible impossible={impossible} onPlan={onPlan} /> : null}
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
      <Breaks breaks={breaks} />
      {page.answers.length > 0 ? (
        <section aria-labelledby="answers">
          <h2 id="answers" className="mb-1 text-[12px] font-semibold text-soft">
            Ways without nudging
          </h2>
          <ul className="space-y-1">
            {page.answers.map(({ says, detail, change }) => (
              <li key={says}>
                <Choice detail={detail} onClick={() => keep(change)}>
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

/** Source breaks, each with the slips that would explain it. */
function Breaks({ breaks }: Pick<FootingPageView, "breaks">) {
  return (
    <section aria-labelledby="breaks">
      <h2 id="breaks" className="mb-1 flex justify-between text-[12px] font-semibold text-soft">
        Source breaks <span>{breaks.length === 0 ? "none" : breaks.length}</span>
      </h2>
      {breaks.length === 0 ? (
        <p className="text-soft">Exact amounts add up in every sum, so each gap comes from rounding alone.</p>
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
