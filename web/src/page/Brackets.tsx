import { useLayoutEffect, useRef, useState } from "react";

import type { ProofView } from "../api/client";
import type { Place } from "../api/queries";

interface Bracket {
  line: string;
  top: number;
  bottom: number;
  tone: "gap" | "foots" | "chosen";
  mark: string;
}

/** Pencil brackets in the left margin that join parts to their total. */
export function Brackets({ proof, place }: { proof: ProofView; place: Place | null }) {
  const box = useRef<HTMLDivElement>(null);
  const [brackets, setBrackets] = useState<Bracket[]>([]);

  useLayoutEffect(() => {
    const table = box.current?.parentElement?.querySelector("table");
    if (!table) return;
    const measure = () => setBrackets(layOut(table, proof, place));
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(table);
    return () => watch.disconnect();
  }, [proof, place]);

  return (
    <div ref={box} aria-hidden="true" className="absolute inset-y-0 -left-9 w-9 print:hidden">
      {brackets.map((bracket) => (
        <div
          key={bracket.line}
          className={`absolute right-1 w-3 rounded-l-md border border-r-0 ${TONES[bracket.tone]}`}
          style={{ top: bracket.top, height: bracket.bottom - bracket.top }}
        >
          <span className="absolute top-1/2 right-4 -translate-y-1/2 font-sans text-[11px] font-semibold text-rust">
            {bracket.mark}
          </span>
        </div>
      ))}
    </div>
  );
}

const TONES = { gap: "border-rust", foots: "border-hairline", chosen: "border-teal border-2" };

/** A bracket for every total that adds the lines right above it, and for the selected total. */
function layOut(table: HTMLTableElement, proof: ProofView, place: Place | null): Bracket[] {
  const found: Bracket[] = [];
  const rowOf = new Map(proof.lines.map((line, row) => [line.id, row]));
  const kinds = new Map(proof.lines.map((line) => [line.id, line.kind]));
  for (const [row, line] of proof.lines.entries()) {
    if (line.parts.length === 0) continue;
    const rows = line.parts.map((part) => rowOf.get(part) ?? row);
    const first = Math.min(...rows);
    const plain = line.parts.every((part) => kinds.get(part) === "line") && row - first === line.parts.length;
    const chosen = place?.line === line.id;
    if (!plain && !chosen) continue;
    const gaps = proof.checks.filter((c) => c.way === "down" && c.line === line.id && c.status === "gap");
    const shown = gaps.find((check) => check.column === place?.column) ?? gaps[0];
    found.push({
      line: line.id,
      top: middle(table, proof.lines[first]?.id),
      bottom: middle(table, line.id),
      tone: gaps.length > 0 ? "gap" : chosen ? "chosen" : "foots",
      mark: shown?.mark ?? "",
    });
  }
  return found;
}

function middle(table: HTMLTableElement, line: string | undefined): number {
  const row = table.querySelector<HTMLElement>(`tr[data-line="${CSS.escape(line ?? "")}"]`);
  return row ? row.offsetTop + row.offsetHeight / 2 : 0;
}
