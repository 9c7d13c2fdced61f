import { useState } from "react";

import type { Change, FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
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
        <OfStatement figure={figure} />
      </div>
    </details>
  );
}

/** The amount put right, for a reason that history keeps. */
function Correct({ figure }: { figure: FigureView }) {
  const { keep } = usePackControls();
  const [amount, setAmount] = useState("");
  const [reason, setReason] = useState("");
  const correct = (to: string | null) =>
    keep({ ...figure.contents.correct, amount: to, reason: reason.trim() }, () => {
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
      <Field label="The correct amount, in ones" value={amount} placeholder="-1234.50" onChange={setAmount} />
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
  const { keep } = usePackControls();
  const { add_line, remove_line } = figure.contents;
  return (
    <Adding
      label="Another line, before this one"
      placeholder="its name"
      onAdd={(label) => keep({ ...add_line, label })}
    >
      <Button className={SMALL} onClick={() => keep(remove_line)}>
        Remove this line
      </Button>
    </Adding>
  );
}

function OfColumn({ figure }: { figure: FigureView }) {
  const { keep } = usePackControls();
  const { add_column, column_last, remove_column } = figure.contents;
  return (
    <Adding
      label="Another column, before this one"
      placeholder="Budget"
      onAdd={(label) => keep({ ...add_column, label })}
    >
      <Button className={SMALL} onClick={() => keep(column_last)}>
        Put this column last
      </Button>
      <Button className={SMALL} onClick={() => keep(remove_column)}>
        Remove this column
      </Button>
    </Adding>
  );
}

function OfStatement({ figure }: { figure: FigureView }) {
  const { keep } = usePackControls();
  const { edit_statement, statement_earlier, statement_later, remove_statement } = figure.contents;
  const [name, setName] = useState(edit_statement.name ?? "");
  const [title, setTitle] = useState(edit_statement.title ?? "");
  const move = (change: Change | null) => change && keep(change);
  return (
    <form
      className="space-y-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (name.trim() && title.trim()) keep({ ...edit_statement, name: name.trim(), title: title.trim() });
      }}
    >
      <Field label="This statement is called" value={name} placeholder="Income" onChange={setName} />
      <Field label="Its title" value={title} placeholder="Statement of income" onChange={setTitle} />
      <p className="flex flex-wrap gap-1.5">
        <Button type="submit" className={SMALL}>
          Rename
        </Button>
        <Button className={SMALL} disabled={!statement_earlier} onClick={() => move(statement_earlier)}>
          Earlier
        </Button>
        <Button className={SMALL} disabled={!statement_later} onClick={() => move(statement_later)}>
          Later
        </Button>
        <Button className={SMALL} onClick={() => keep(remove_statement)}>
          Remove this statement
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
