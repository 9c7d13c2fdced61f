import { useLayoutEffect, useRef, useState } from "react";

import { Button } from "../ui/Button";

interface Props {
  free: "currency" | "word";
  onSave: (value: unknown) => void;
  onClose: () => void;
}

/** A field for a word or a currency code that is not among the choices. */
export function AnotherWord({ free, onSave, onClose }: Props) {
  const [text, setText] = useState("");
  const field = useRef<HTMLInputElement>(null);
  useLayoutEffect(() => {
    field.current?.focus();
  }, []);
  const value = free === "currency" ? text.trim().toUpperCase() : { word: text.trim() };
  return (
    <form
      className="mt-1 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onSave(value);
      }}
    >
      <label className="flex min-w-0 flex-1 items-center gap-2">
        {free === "currency" ? "ISO 4217 code" : "Word"}
        <input
          ref={field}
          value={text}
          maxLength={free === "currency" ? 3 : 24}
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
