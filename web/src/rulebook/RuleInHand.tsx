import type { RuleView } from "../api/client";

/** The rule in hand: where it stands, and what it would print for specimens. */
export function RuleInHand({ rule, place, count }: { rule: RuleView; place: number; count: number }) {
  return (
    <>
      <h2 className="flex justify-between font-semibold">
        {rule.name}
        <span className="font-normal text-soft">
          {place + 1} of {count}
        </span>
      </h2>
      <p className="text-soft">
        Reaches {rule.reaches === 1 ? "1 figure" : `${rule.reaches} figures`} {rule.reach_said}.
      </p>
      <section aria-label="Specimens">
        <h3 className="mb-1 text-[12px] font-semibold text-soft">Specimens</h3>
        <dl>
          {rule.specimens.map((specimen) => (
            <div key={specimen.sort} className="flex justify-between border-b border-hairline py-0.5">
              <dt className="text-soft">
                {specimen.sort} <span className="text-[12px]">{specimen.exact}</span>
              </dt>
              <dd className="font-serif">{specimen.text}</dd>
            </div>
          ))}
        </dl>
      </section>
    </>
  );
}
