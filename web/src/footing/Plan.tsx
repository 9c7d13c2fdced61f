import { useState } from "react";

import type { Change, Foot, FootingPageView } from "../api/client";
import { Field } from "../ui/Field";
import { Words } from "../words/Words";

interface Props {
  page: FootingPageView;
  /** Searches by the plans of a command; nothing is kept. */
  onPlan: (foot: Foot) => void;
  onFigure: (statement: string, line: string, column: string) => void;
}

/** The plan as a sentence, and one more for each statement that has a plan of its own. */
export function Plan({ page, onPlan, onFigure }: Props) {
  const plan = (change: Change) => {
    if (change.kind === "foot") onPlan(change);
  };
  const others = page.statements.filter(({ id }) => !page.apart.some((each) => each.statement === id));
  return (
    <section aria-label="The plan">
      <p className="text-[15px]/[2]">
        <Words words={page.sentence} act={plan} />
      </p>
      <Note
        key={page.policy.note}
        note={page.policy.note}
        onNote={(note) => onPlan({ ...page.foot, policy: { ...page.policy, note } })}
      />
      {page.apart.map(({ statement, name, sentence, like_others: likeOthers }) => (
        <div key={statement} className="border-l-2 border-hairline pl-3">
          <h2 className="flex items-baseline gap-3 pt-1 font-semibold">
            In {name}
            <button
              type="button"
              className="text-[12.5px] font-normal text-teal underline"
              onClick={() => onPlan(likeOthers)}
            >
              Plan it like the others
            </button>
          </h2>
          <p className="text-[15px]/[2]">
            <Words words={sentence} act={plan} />
          </p>
        </div>
      ))}
      {page.exceptions.length > 0 ? (
        <details className="my-1">
          <summary className="text-soft">
            {page.exceptions.length === 1
              ? "One line, column or sum has a plan of its own"
              : `${page.exceptions.length} lines, columns and sums have plans of their own`}
          </summary>
          <ul className="mt-0.5 pl-4">
            {page.exceptions.map(({ statement, line, column, name, says }) => (
              <li key={`${statement} ${line} ${column} ${name} ${says}`}>
                <button
                  type="button"
                  className="text-left text-teal underline decoration-hairline underline-offset-2 hover:decoration-teal"
                  onClick={() => onFigure(statement, line, column)}
                >
                  {name}
                </button>
                : {says}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      {page.statements.length > 1 && others.length > 0 ? (
        <p className="flex flex-wrap items-baseline gap-x-2 text-soft">
          A plan of its own for
          {others.map(({ id, name, apart }) => (
            <button key={id} type="button" className="text-teal underline" onClick={() => onPlan(apart)}>
              {name}
            </button>
          ))}
        </p>
      ) : null}
    </section>
  );
}

/** What is printed where a gap is left. It is used once Enter is pressed or the line is left. */
function Note({ note, onNote }: { note: string; onNote: (note: string) => void }) {
  const [text, setText] = useState(note);
  const use = () => {
    if (text.trim() && text.trim() !== note) onNote(text.trim());
  };
  return (
    <form
      className="my-1 max-w-[420px]"
      onSubmit={(event) => {
        event.preventDefault();
        use();
      }}
    >
      <Field
        label="Where a gap is left, the statement says"
        value={text}
        placeholder={note}
        onChange={setText}
        onBlur={use}
      />
    </form>
  );
}
