import { useState } from "react";

import type { FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Words } from "../words/Words";

/** What stands over the figure's column: its label, or a day or month that follows the locale. */
export function Heading({ figure }: { figure: FigureView }) {
  const { act } = usePackControls();
  const [open, setOpen] = useState(false);
  const { column_label, column_date, column_heading: heading } = figure;
  if (!open) {
    return (
      <>
        <p className="mt-2 text-[14.5px]/[1.85]">
          <Words words={figure.column_sentence} act={act} />
        </p>
        <p className="text-soft">
          It is headed by {column_date ? `the date ${column_date}` : "its name"}.{" "}
          <button type="button" className="text-teal underline" onClick={() => setOpen(true)}>
            Change the heading
          </button>
        </p>
      </>
    );
  }
  return (
    <Editor
      label={column_label}
      date={column_date ?? ""}
      onClose={() => setOpen(false)}
      onSave={(label, date) => {
        setOpen(false);
        act({ ...heading, label, date: date || null });
      }}
    />
  );
}

interface EditorProps {
  label: string;
  date: string;
  onSave: (label: string, date: string) => void;
  onClose: () => void;
}

function Editor(props: EditorProps) {
  const [label, setLabel] = useState(props.label);
  const [date, setDate] = useState(props.date);
  return (
    <form
      className="mt-2 space-y-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (label.trim()) props.onSave(label.trim(), date.trim());
      }}
    >
      <Field label="Name of the column" value={label} onChange={setLabel} placeholder="2025–26" />
      <Field
        label="Day or month that heads it, if any"
        value={date}
        onChange={setDate}
        placeholder="2026-03-31 or 2026-03"
      />
      <div className="flex gap-1.5">
        <Button type="submit" className="px-2! py-0.5!">
          Use it
        </Button>
        <Button className="px-2! py-0.5!" onClick={props.onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
