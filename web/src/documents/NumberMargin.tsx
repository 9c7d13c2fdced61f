import { useState } from "react";

import type { NumberView } from "../api/client";
import { useFound } from "../api/queries";
import { usePack, usePackControls } from "../pack/OpenPack";
import { showFigure } from "../pack/focus";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { SAID } from "./DocumentPage";

const WRONG = ["disagrees", "gone", "nudged"];

/** How a number stands and why, and what can be said of it. */
export function NumberMargin({ number, document }: { number: NumberView; document: string }) {
  const { keep, go } = usePackControls();
  const [reason, setReason] = useState("");
  const { figure } = number;
  const wrong = WRONG.includes(number.judgement);
  const said = { around: number.around, number: number.text, document, alike: false };
  return (
    <section aria-label="The number in hand" className="space-y-2">
      <h2
        className={`font-semibold ${wrong ? "text-rust" : number.judgement === "doubt" ? "text-ochre" : ""}`}
      >
        <bdi>{number.text}</bdi> {SAID[number.judgement]}
        {number.should_print ? (
          <>
            ; it should be <bdi>{number.should_print}</bdi>
          </>
        ) : null}
        .
      </h2>
      {figure && number.name ? (
        <button
          type="button"
          className="text-left text-teal underline"
          onClick={() => {
            const [statement, line, column] = figure;
            if (!statement || !line || !column) return;
            go({ screen: "page", statement, place: { line, column } });
            showFigure({ line, column });
          }}
        >
          {number.name}
        </button>
      ) : null}
      <ul className="space-y-1 text-soft">
        {number.because.map((why) => (
          <li key={why}>{why}</li>
        ))}
        <li>{number.place}</li>
        {number.same > 0 ? (
          <li>
            {number.same === 1 ? "1 other number" : `${number.same} other numbers`} of this document{" "}
            {number.same === 1 ? "is" : "are"} the same figure.
          </li>
        ) : null}
      </ul>
      {number.forget ? (
        <Button onClick={() => number.forget && keep(number.forget)}>Take back what was said</Button>
      ) : (
        <div className="space-y-2">
          <div className="flex flex-wrap gap-1.5">
            <Button shortcut="o" onClick={() => keep(number.none_of_ours)}>
              It is none of ours
            </Button>
            <Button onClick={() => keep(number.all_alike)}>Every “{number.text}” is none of ours</Button>
          </div>
          {wrong || number.judgement === "doubt" ? (
            <form
              className="space-y-1.5"
              onSubmit={(event) => {
                event.preventDefault();
                if (reason.trim())
                  keep({ kind: "answer_number", answer: "stays", figure: null, reason, ...said });
              }}
            >
              <Field
                label="Leave it, because"
                value={reason}
                placeholder="why it stays as it is"
                most={500}
                onChange={setReason}
              />
              <Button type="submit" disabled={!reason.trim()}>
                Leave it
              </Button>
            </form>
          ) : null}
          <OtherFigure said={said} />
        </div>
      )}
    </section>
  );
}

interface OtherProps {
  said: { around: string; number: string; document: string; alike: boolean };
}

/** Another figure that the number is, found by its name. */
function OtherFigure({ said }: OtherProps) {
  const { where, pack } = usePack();
  const { keep } = usePackControls();
  const [typed, setTyped] = useState("");
  const { data } = useFound(where, pack.revision, typed.trim());
  return (
    <div>
      <Field label="It is another figure" value={typed} placeholder="words of its name" onChange={setTyped} />
      {typed.trim() ? (
        <ul className="mt-1 max-h-56 overflow-y-auto">
          {(data ?? []).slice(0, 12).map((each) => (
            <li key={`${each.statement} ${each.line} ${each.column}`}>
              <button
                type="button"
                className="flex w-full justify-between gap-2 py-0.5 text-left hover:text-teal"
                onClick={() =>
                  keep({
                    kind: "answer_number",
                    answer: "figure",
                    figure: [each.statement, each.line, each.column],
                    reason: "",
                    ...said,
                  })
                }
              >
                <span>{each.name}</span>
                <bdi className="font-serif">{each.printed}</bdi>
              </button>
            </li>
          ))}
        </ul>
      ) : null}
    </div>
  );
}
