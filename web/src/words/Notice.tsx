import { X } from "lucide-react";
import type { ReactNode } from "react";
import { useEffect, useRef } from "react";

import type { Problem } from "../api/client";

/** A refusal said beside its cause: what, where and what to do. */
export function Notice({
  problem,
  onClose,
  children,
}: {
  problem: Problem;
  onClose: () => void;
  children?: ReactNode;
}) {
  const { faults } = problem;
  const box = useRef<HTMLDivElement>(null);
  useEffect(() => {
    // In braces: newer browsers answer with a promise, which is no way to end an effect.
    box.current?.scrollIntoView({ block: "nearest" });
  }, [problem]);
  return (
    <div ref={box} role="alert" className="relative rounded-md border border-rust bg-rust-wash p-3 pr-9">
      <p className="font-semibold text-rust">{problem.title}</p>
      {faults.length === 0 && problem.detail ? <p>{problem.detail}</p> : null}
      <ul>
        {faults.slice(0, 8).map((fault) => (
          <li key={`${fault.where} ${fault.what}`}>
            {fault.where ? <span className="text-soft">{fault.where}: </span> : null}
            {fault.what} {fault.remedy}
          </li>
        ))}
      </ul>
      {faults.length > 8 ? <p className="text-soft">and {faults.length - 8} more</p> : null}
      {children}
      <button
        type="button"
        aria-label="Close"
        className="absolute top-2 right-2 rounded-sm p-1 hover:bg-white"
        onClick={onClose}
      >
        <X size={14} aria-hidden="true" />
      </button>
    </div>
  );
}
