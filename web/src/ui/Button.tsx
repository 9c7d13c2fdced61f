import type { ComponentProps } from "react";

import { Key } from "./Key";

interface Props extends ComponentProps<"button"> {
  shortcut?: string;
  main?: boolean;
}

/** A button that shows its key. */
export function Button({ shortcut, main = false, children, className = "", ...rest }: Props) {
  const look = main
    ? "bg-teal text-white border-teal font-semibold hover:bg-ink disabled:border-soft disabled:bg-soft"
    : "bg-paper border-hairline font-medium hover:border-teal disabled:text-soft disabled:bg-panel";
  return (
    <button
      type="button"
      aria-keyshortcuts={shortcut}
      className={`rounded-md border px-3 py-1.5 whitespace-nowrap ${look} ${className}`}
      {...rest}
    >
      {children}
      {shortcut ? <Key light={main}>{shortcut}</Key> : null}
    </button>
  );
}
