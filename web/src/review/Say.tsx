import { useId, useState } from "react";

import { Button } from "../ui/Button";

interface Props {
  label: string;
  /** What the button does. */
  does: string;
  onSay: (words: string) => void;
  onLeave: () => void;
}

/** Some words to write. Enter with ctrl says them, Escape leaves. */
export function Say({ label, does, onSay, onLeave }: Props) {
  const [words, setWords] = useState("");
  const id = useId();
  const said = words.trim();
  return (
    <form
      className="mt-1 space-y-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (said) onSay(said);
      }}
    >
      <label htmlFor={id} className="block text-[12px] font-semibold text-soft">
        {label}
      </label>
      <textarea
        id={id}
        ref={(field) => field?.focus()}
        value={words}
        rows={3}
        maxLength={2000}
        className="block w-full rounded-sm border border-teal bg-paper px-1.5 py-1 text-ink"
        onChange={(event) => setWords(event.target.value)}
        onKeyDown={(event) => {
          if (event.key === "Enter" && (event.ctrlKey || event.metaKey) && said) {
            event.preventDefault();
            onSay(said);
          } else if (event.key === "Escape") {
            event.preventDefault();
            onLeave();
          }
        }}
      />
      <div className="flex gap-1.5">
        <Button type="submit" className="px-2! py-0.5!" disabled={!said}>
          {does}
        </Button>
        <Button className="px-2! py-0.5!" onClick={onLeave}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
