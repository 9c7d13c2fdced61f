import type { DraftView } from "../api/client";
import { Key } from "../ui/Key";
import type { Decide } from "./useIntake";

interface Props {
  draft: DraftView;
  at: number;
  onVisit: (place: number) => void;
  decide: (patch: Decide) => void;
}

/** What there is to ask of the table in hand; a digit answers the question in hand. */
export function Questions({ draft, at, onVisit, decide }: Props) {
  const { questions, decided, read } = draft;
  const cells = draft.rows.reduce((sum, row) => sum + row.cells.length, 0);
  return (
    <>
      <section aria-label="Questions">
        <h2 className="flex justify-between pb-1 text-[12px] font-semibold text-soft">
          Questions
          <span className="font-normal">
            {questions.length === 0 ? `none of ${cells} cells` : `${questions.length} of ${cells} cells`}
          </span>
        </h2>
        {questions.length > 0 ? (
          <ol className="rounded-md border border-hairline bg-paper">
            {questions.map((question, place) => (
              <li
                key={question.asks}
                id={`question:${place}`}
                aria-current={place === at ? "true" : undefined}
                className="question border-b border-hairline p-3 last:border-b-0 aria-[current]:bg-teal-faint"
              >
                <button
                  id={`asks:${place}`}
                  type="button"
                  className="text-left font-semibold hover:underline"
                  onClick={() => onVisit(place)}
                >
                  {question.asks}
                </button>
                <p className="text-soft">{question.says}</p>
                <p className="flex flex-wrap gap-1.5 pt-1.5">
                  {question.answers.map((answer, number) => (
                    <button
                      key={answer.label}
                      type="button"
                      aria-describedby={`asks:${place}`}
                      className={`rounded-md border px-2 py-0.5 ${number === 0 ? "border-teal bg-teal-wash font-semibold" : "border-hairline bg-paper hover:border-teal"}`}
                      onClick={() => decide(answer.decide)}
                    >
                      {answer.label}
                      {place === at && number < 9 ? <Key>{String(number + 1)}</Key> : null}
                    </button>
                  ))}
                </p>
              </li>
            ))}
          </ol>
        ) : null}
      </section>
      {decided.length > 0 ? (
        <section aria-label="Decided">
          <h2 className="pb-1 text-[12px] font-semibold text-soft">Decided</h2>
          <ul>
            {decided.map((each) => (
              <li key={each.asks} className="flex justify-between gap-2">
                {each.asks}
                <button
                  type="button"
                  className="underline"
                  onClick={() => {
                    const [back] = each.answers;
                    if (back) decide(back.decide);
                  }}
                >
                  {each.answers[0]?.label}
                </button>
              </li>
            ))}
          </ul>
        </section>
      ) : null}
      {draft.breaks.length > 0 ? (
        <section aria-label="Source breaks">
          <h2 className="pb-1 text-[12px] font-semibold text-rust">Totals that do not foot in the source</h2>
          <ul className="list-disc space-y-0.5 pl-4">
            {draft.breaks.map((each) => (
              <li key={each}>{each}</li>
            ))}
          </ul>
        </section>
      ) : null}
      {read.length > 0 ? (
        <section aria-label="Read without a question">
          <h2 className="pb-1 text-[12px] font-semibold text-soft">Read without a question</h2>
          <ul className="list-disc space-y-0.5 pl-4 text-soft">
            {read.map((each, place) => (
              <li key={place}>{each}</li>
            ))}
          </ul>
        </section>
      ) : null}
      {draft.look ? (
        <section aria-label="Number format">
          <h2 className="pb-1 text-[12px] font-semibold text-soft">Number format</h2>
          <p className="text-soft">
            {draft.look}
            {draft.unheld.length > 0 ? `; no clause can say ${draft.unheld.join(", ")}` : ""}:{" "}
            <button
              type="button"
              className="text-teal underline"
              aria-pressed={draft.look_kept}
              onClick={() => decide({ look: draft.look_kept ? false : null })}
            >
              {draft.look_kept
                ? "kept as this statement’s rule; do not keep it"
                : "not kept; keep it as this statement’s rule"}
            </button>
          </p>
        </section>
      ) : null}
    </>
  );
}
