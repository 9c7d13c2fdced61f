import { useState } from "react";

import type { FigureView } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";

const SMALL = "px-2! py-0.5!";

/** What the pack holds, changed after the fact: the amount, its line, its column, its statement. */
export function Contents({ figure }: { figure: FigureView }) {
  return (
    <details>
      <summary className="cursor-pointer text-[12px] font-semibold text-soft">
        Correct, add or take out
      </summary>
      <div className="space-y-3 pt-2">
        <Correct key={`${figure.line} ${figure.column}`} figure={figure} />
        <OfLine figure={figure} />
        <OfColumn figure={figure} />
        <OfStatement />
      </div>
    </details>
  );
}

/** The amount put right, for a reason that history keeps. */
function Correct({ figure }: { figure: FigureView }) {
  const { statement } = usePack();
  const { keep } = usePackControls();
  const [amount, setAmount] = useState("");
  const [reason, setReason] = useState("");
  const { line, column } = figure;
  const correct = (to: string | null) =>
    keep({ kind: "correct_amount", statement, line, column, amount: to, reason: reason.trim() }, () => {
      setAmount("");
      setReason("");
    });
  return (
    <form
      className="space-y-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (amount.trim() && reason.trim()) correct(amount.trim());
      }}
    >
      <Field label="The right amount, in ones" value={amount} placeholder="-1234.50" onChange={setAmount} />
      <Field label="Why" value={reason} placeholder="late invoice" onChange={setReason} />
      <p className="flex gap-1.5">
        <Button type="submit" className={SMALL} disabled={!amount.trim() || !reason.trim()}>
          Correct it
        </Button>
        <Button className={SMALL} disabled={!reason.trim()} onClick={() => correct(null)}>
          It is missing
        </Button>
      </p>
    </form>
  );
}

function OfLine({ figure }: { figure: FigureView }) {
  const { statement } = usePack();
  const { keep } = usePackControls();
  const { line } = figure;
  // It joins the total that its neighbour is a part of.
  const total = figure.structure.sentence.find((word) => typeof word === "object" && word.clause === "total");
  return (
    <Adding
      label="Another line, before this one"
      placeholder="its name"
      onAdd={(label) =>
        keep({
          kind: "add_line",
          statement,
          label,
          line_kind: "line",
          before: line,
          total: typeof total === "object" && typeof total.value === "string" ? total.value : null,
          amounts: {},
        })
      }
    >
      <Button className={SMALL} onClick={() => keep({ kind: "remove_line", statement, line })}>
        Take this line out
      </Button>
    </Adding>
  );
}

function OfColumn({ figure }: { figure: FigureView }) {
  const { statement } = usePack();
  const { keep } = usePackControls();
  const { column } = figure;
  return (
    <Adding
      label="Another column, before this one"
      placeholder="Budget"
      onAdd={(label) => keep({ kind: "add_column", statement, label, before: column })}
    >
      <Button
        className={SMALL}
        onClick={() => keep({ kind: "move_column", statement, column, before: null })}
      >
        Put this column last
      </Button>
      <Button className={SMALL} onClick={() => keep({ kind: "remove_column", statement, column })}>
        Take this column out
      </Button>
    </Adding>
  );
}

function OfStatement() {
  const { pack, statement } = usePack();
  const { keep } = usePackControls();
  const own = pack.statements.find((each) => each.id === statement);
  const place = pack.statements.findIndex((each) => each.id === statement);
  const [name, setName] = useState(own?.name ?? "");
  const [title, setTitle] = useState(own?.title ?? "");
  const move = (before: string | null) => keep({ kind: "move_statement", statement, before });
  const earlier = pack.statements[place - 1]?.id;
  return (
    <form
      className="space-y-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() && title.trim())
          keep({ kind: "edit_statement", statement, name: name.trim(), title: title.trim() });
      }}
    >
      <Field label="This statement is called" value={name} placeholder="Income" onChange={setName} />
      <Field label="Its title" value={title} placeholder="Statement of income" onChange={setTitle} />
      <p className="flex flex-wrap gap-1.5">
        <Button type="submit" className={SMALL}>
          Call it so
        </Button>
        <Button className={SMALL} disabled={!earlier} onClick={() => move(earlier ?? null)}>
          Earlier
        </Button>
        <Button
          className={SMALL}
          disabled={place + 1 >= pack.statements.length}
          onClick={() => move(pack.statements[place + 2]?.id ?? null)}
        >
          Later
        </Button>
        <Button className={SMALL} onClick={() => keep({ kind: "remove_statement", statement })}>
          Take this statement out
        </Button>
      </p>
    </form>
  );
}

interface AddingProps {
  label: string;
  placeholder: string;
  onAdd: (label: string) => void;
  children: React.ReactNode;
}

function Adding({ label, placeholder, onAdd, children }: AddingProps) {
  const [name, setName] = useState("");
  return (
    <form
      className="space-y-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim()) onAdd(name.trim());
        setName("");
      }}
    >
      <Field label={label} value={name} placeholder={placeholder} onChange={setName} />
      <p className="flex flex-wrap gap-1.5">
        <Button type="submit" className={SMALL} disabled={!name.trim()}>
          Add it
        </Button>
        {children}
      </p>
    </form>
  );
}
