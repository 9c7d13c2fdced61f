import { useLayoutEffect, useRef, useState } from "react";

import type { WordView } from "../api/client";
import { Button } from "../ui/Button";

type Free = NonNullable<WordView["free"]>;

interface Props {
  free: Free;
  onSave: (value: unknown) => void;
  onClose: () => void;
}

/** What may be typed: its name, an example, and the clause's value it makes; null while it is none. */
const TYPED: Record<Free, { name: string; example: string; value: (text: string) => unknown }> = {
  currency: { name: "ISO 4217 code", example: "CHF", value: (text) => text.toUpperCase() },
  word: { name: "Word", example: "nil", value: (word) => ({ word }) },
  locale: { name: "Language tag", example: "sv-SE", value: (tag) => tag },
  step: { name: "Step", example: "0.05", value: (step) => step },
  beside: { name: "Text", example: "net", value: (text) => text },
  threshold: {
    name: "Falls in rust below",
    example: "-0.10",
    value: (below) => [
      { when: { above: "0" }, mark: "▲" },
      { when: { below }, mark: "▼", tone: "rust" },
      { when: { below: "0" }, mark: "▼" },
    ],
  },
  units: {
    name: "One, many",
    example: "litre, litres",
    value: (text) => {
      const [one, many] = text.split(",").map((word) => word.trim());
      return one && many ? { one, many } : null;
    },
  },
  width: {
    name: "Most characters",
    example: "8",
    value: (text) => (/^\d+$/.test(text) ? { most: Number(text), gives_way: "decimals" } : null),
  },
};

/** A field for a value that is not among the choices. */
export function AnotherWord({ free, onSave, onClose }: Props) {
  const [text, setText] = useState("");
  const field = useRef<HTMLInputElement>(null);
  useLayoutEffect(() => {
    field.current?.focus();
  }, []);
  const { name, example, value } = TYPED[free];
  return (
    <form
      className="mt-1 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const made = text.trim() ? value(text.trim()) : null;
        if (made !== null) onSave(made);
      }}
    >
      <label className="flex min-w-0 flex-1 items-center gap-2">
        {name}
        <input
          ref={field}
          value={text}
          maxLength={40}
          placeholder={example}
          className="min-w-0 flex-1 border-b border-teal bg-paper px-1"
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key === "Escape") {
              event.preventDefault();
              onClose();
            }
          }}
        />
      </label>
      <Button type="submit" className="px-2! py-0.5!">
        Use it
      </Button>
    </form>
  );
}
