import { useLayoutEffect, useRef, useState } from "react";

import type { Change, WordView } from "../api/client";
import { Button } from "../ui/Button";

interface Props {
  typed: NonNullable<WordView["typed"]>;
  act: (change: Change) => void;
  onClose: () => void;
}

/** A field for a value that is not among the choices. The server reads what is typed. */
export function TypedValue({ typed, act, onClose }: Props) {
  return (
    <TypedText
      name={typed.name}
      example={typed.example}
      onText={(text) => act({ ...typed.change, text })}
      onClose={onClose}
    />
  );
}

interface TextProps {
  name: string;
  example: string;
  onText: (text: string) => void;
  onClose: () => void;
}

/** A field that takes the focus, for a text to be used. Escape leaves it. */
export function TypedText({ name, example, onText, onClose }: TextProps) {
  const [text, setText] = useState("");
  const field = useRef<HTMLInputElement>(null);
  useLayoutEffect(() => {
    field.current?.focus();
  }, []);
  return (
    <form
      className="mt-1 flex items-center gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (!text.trim()) return;
        onClose();
        onText(text.trim());
      }}
    >
      <label className="flex min-w-0 flex-1 items-center gap-2">
        {name}
        <input
          ref={field}
          value={text}
          maxLength={200}
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
