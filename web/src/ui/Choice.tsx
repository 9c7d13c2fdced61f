import type { ReactNode } from "react";

interface Props {
  detail?: ReactNode;
  first?: boolean;
  onClick: () => void;
  children: ReactNode;
}

/** One of several things to choose or to go to, with what it comes to in small below it. */
export function Choice({ detail, first = false, onClick, children }: Props) {
  return (
    <button
      type="button"
      className={`w-full rounded-md border bg-paper px-2.5 py-1.5 text-left hover:border-teal ${
        first ? "border-l-3 border-teal" : "border-hairline"
      }`}
      onClick={onClick}
    >
      {children}
      {detail ? <span className="block text-[12px] text-soft">{detail}</span> : null}
    </button>
  );
}
