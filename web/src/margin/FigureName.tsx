import { useRef, useState } from "react";

import type { FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { showSelected } from "../pack/focus";
import { Button } from "../ui/Button";

/** The figure's name, and whether it is held and why. */
export function FigureName({ figure }: { figure: FigureView }) {
  const { act } = usePackControls();
  const { hold, hold_because: because } = figure;
  const comma = figure.label.lastIndexOf(", ");
  const [name, period] = [figure.label.slice(0, comma), figure.label.slice(comma + 2)];
  return (
    <>
      <div className="flex items-start justify-between gap-2">
        <h2 className="pt-0.5 font-semibold">
          {name}, <span className="whitespace-nowrap">{period}</span>
        </h2>
        <Button
          shortcut="h"
          aria-pressed={figure.held}
          disabled={!hold}
          className={`px-2! py-0.5! ${figure.held ? "border-plum! text-plum" : ""}`}
          onClick={() => hold && act(hold)}
        >
          {figure.held ? "Held" : "Hold"}
        </Button>
      </div>
      {because ? (
        <Reason
          key={`${figure.line} ${figure.column} ${figure.hold_reason}`}
          reason={figure.hold_reason}
          onSave={(reason) => act({ ...because, reason })}
        />
      ) : null}
    </>
  );
}

function Reason({ reason, onSave }: { reason: string; onSave: (reason: string) => void }) {
  const [text, setText] = useState(reason);
  // Enter saves, and so does leaving the field; not both.
  const saved = useRef(reason);
  const save = () => {
    if (text.trim() === saved.current) return;
    saved.current = text.trim();
    onSave(saved.current);
  };
  return (
    <form
      className="mt-1"
      onSubmit={(event) => {
        event.preventDefault();
        save();
        showSelected();
      }}
    >
      <label className="flex items-center gap-2 text-soft">
        because
        <input
          className="min-w-0 flex-1 border-b border-plum bg-transparent px-1 text-ink"
          placeholder="agreed with the auditors"
          maxLength={500}
          value={text}
          onChange={(event) => setText(event.target.value)}
          onBlur={save}
        />
      </label>
    </form>
  );
}
