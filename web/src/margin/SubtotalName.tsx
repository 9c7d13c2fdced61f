import { useLayoutEffect, useRef, useState } from "react";

interface Props {
  count: number;
  onSave: (label: string) => void;
  onClose: () => void;
}

/** Asks what a new subtotal is called. */
export function SubtotalName({ count, onSave, onClose }: Props) {
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
