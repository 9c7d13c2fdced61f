import { useLayoutEffect, useRef, useState } from "react";

import type { Change, FigureView, LineView, WordView } from "../api/client";
import type { Deed } from "../api/queries";
import { Button } from "../ui/Button";
import { Heading } from "./Heading";
import { Members } from "./Members";
import { Words } from "./Words";
import type { Answer } from "./answering";
import { answerAlone } from "./answering";

interface Props {
  figure: FigureView;
  statement: string;
  chosen: string[];
  naming: boolean;
  onNaming: (naming: boolean) => void;
  act: (deed: Deed) => void;
}

/** The line's place in its statement: a sentence, its parts, and ways to rearrange them. */
export function Structure({ figure, statement, chosen, naming, onNaming, act }: Props) {
  const { line, structure } = figure;
  return (
    <section aria-labelledby="structure">
      <h2 id="structure" className="mb-1 text-[12px] font-semibold text-soft">
        Structure
      </h2>
      <p className="text-[14.5px]/[1.85]">
        <Words
          words={structure.sentence}
          onChoose={(word, value) => {
            const change = changeOf(word, value, figure, statement);
            if (change) act(change);
          }}
        />
      </p>
      {structure.parts.length > 0 ? (
        <details className="mt-1">
          <summary className="text-soft">Adds {structure.parts.length} lines</summary>
          <ul className="mt-0.5">
            {structure.parts.map((part) => (
              <li key={part.line} className="flex items-center gap-2 py-px">
                <button
                  type="button"
                  className="size-5 rounded-sm border border-hairline bg-paper leading-4 hover:border-teal"
                  aria-label={`${part.label}: ${part.sign > 0 ? "added" : "taken away"}; change its sign`}
                  onClick={() => act({ kind: "flip_sign", statement, line: part.line })}
                >
                  {part.sign > 0 ? "+" : "−"}
                </button>
                {part.label}
              </li>
            ))}
          </ul>
        </details>
      ) : null}
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Button
          shortcut="alt ↑"
          className="px-2! py-0.5!"
          disabled={structure.before === null}
          onClick={() => act({ kind: "move_line", statement, line, before: structure.before })}
        >
          Up
        </Button>
        <Button
          shortcut="alt ↓"
          className="px-2! py-0.5!"
          disabled={structure.last}
          onClick={() => act({ kind: "move_line", statement, line, before: structure.after_next })}
        >
          Down
        </Button>
        <Button shortcut="g" className="px-2! py-0.5!" onClick={() => onNaming(true)}>
          Put under a subtotal
        </Button>
        {structure.can_dissolve ? (
          <Button className="px-2! py-0.5!" onClick={() => act({ kind: "dissolve", statement, line })}>
            Take out, keep its parts
          </Button>
        ) : null}
      </div>
      {naming ? (
        <Naming
          count={chosen.length}
          onSave={(label) => {
            onNaming(false);
            act({ kind: "group", statement, lines: chosen, label });
          }}
          onClose={() => onNaming(false)}
        />
      ) : null}
      <Heading
        key={`${figure.column} ${figure.column_label}`}
        figure={figure}
        statement={statement}
        act={act}
      />
      <Members lists={structure.members} statement={statement} act={act} />
    </section>
  );
}

/** What choosing a word of the sentence does. */
function changeOf(word: WordView, value: unknown, figure: FigureView, statement: string): Change | null {
  const { line } = figure;
  if (word.clause === "total") {
    const total = typeof value === "string" ? value : null;
    return { kind: "make_part", statement, line, total, sign: 1 };
  }
  if (word.clause === "sign") return value === word.value ? null : { kind: "flip_sign", statement, line };
  const own = answerAlone(word, value, "down", figure, statement);
  if (own) return own;
  if (word.clause === "answer" && value === "rounding") {
    return { kind: "add_rounding", statement, total: line, label: "Rounding" };
  }
  if (word.clause === "answer") {
    return { kind: "set_line", statement, line, answer: value as Answer };
  }
  if (word.clause === "readiness") {
    return { kind: "set_line", statement, line, readiness: value as "usual" | "first" | "never" };
  }
  if (word.clause === "natural") {
    return { kind: "set_line", statement, line, natural: value as "either" | "positive" | "negative" };
  }
  return { kind: "set_line", statement, line, line_kind: value as LineView["kind"] };
}

interface NamingProps {
  count: number;
  onSave: (label: string) => void;
  onClose: () => void;
}

/** Asks what a new subtotal is called. */
function Naming({ count, onSave, onClose }: NamingProps) {
  const [label, setLabel] = useState("");
  const field = useRef<HTMLInputElement>(null);
  useLayoutEffect(() => {
    field.current?.focus();
  }, []);
  return (
    <form
      className="mt-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (label.trim()) onSave(label.trim());
      }}
    >
      <label className="flex items-center gap-2">
        <span className="whitespace-nowrap">{count === 1 ? "1 line" : `${count} lines`} under</span>
        <input
          ref={field}
          value={label}
          maxLength={200}
          placeholder="name of the subtotal"
          className="min-w-0 flex-1 border-b border-teal bg-paper px-1"
          onChange={(event) => setLabel(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Escape") {
              event.preventDefault();
              onClose();
            }
          }}
        />
      </label>
      {count < 2 ? <p className="text-soft">Choose more lines with shift and the arrows.</p> : null}
    </form>
  );
}
