import { useLayoutEffect, useMemo, useRef, useState } from "react";

import type { ProofView } from "../api/client";
import type { Place } from "../api/queries";
import { ROW } from "./useWindow";

interface Span {
  line: string;
  from: number;
  to: number;
  tone: "gap" | "foots" | "chosen";
  mark: string;
}

interface Props {
  proof: ProofView;
  place: Place | null;
  first: number;
  last: number;
  windowed: boolean;
}

/** Pencil brackets in the left margin that join parts to their total. */
export function Brackets({ proof, place, first, last, windowed }: Props) {
  const box = useRef<HTMLDivElement>(null);
  const spans = useMemo(() => spansOf(proof, place), [proof, place]);
  const [middles, setMiddles] = useState<number[]>([]);
  // What decides how high each row is; a table that grows for its figures' sake is watched.
  const rows = windowed ? "" : proof.lines.map(({ id, kind, label }) => `${id} ${kind} ${label}`).join("\n");

  useLayoutEffect(() => {
    const table = box.current?.parentElement?.querySelector("table");
    if (!table) return;
    const measure = () => setMiddles(middlesOf(table, windowed));
    measure();
    const watch = new ResizeObserver(measure);
    watch.observe(table);
    return () => watch.disconnect();
    // Rows of a windowed page are as high as each other, whatever is in them.
  }, [rows, windowed]);

  const at = (row: number) => (windowed ? (middles[0] ?? 0) + row * ROW : (middles[row] ?? 0));
  return (
    <div ref={box} aria-hidden="true" className="absolute inset-y-0 -left-9 w-9 print:hidden">
      {spans
        .filter((span) => span.to >= first && span.from < last)
        .map((span) => (
          <div
            key={span.line}
            className={`absolute right-1 w-3 rounded-l-md border border-r-0 ${TONES[span.tone]}`}
            style={{ top: at(span.from), height: at(span.to) - at(span.from) }}
          >
            <span className="absolute top-1/2 right-4 -translate-y-1/2 font-sans text-[11px] font-semibold text-rust">
              {span.mark}
            </span>
          </div>
        ))}
    </div>
  );
}

const TONES = { gap: "border-rust", foots: "border-hairline", chosen: "border-teal border-2" };

/** A bracket for every total that adds the lines right above it, and for the selected total. */
function spansOf(proof: ProofView, place: Place | null): Span[] {
  const found: Span[] = [];
  const rowOf = new Map(proof.lines.map((line, row) => [line.id, row]));
  const kinds = new Map(proof.lines.map((line) => [line.id, line.kind]));
  const gaps = new Map<string, ProofView["checks"]>();
  for (const check of proof.checks) {
    if (check.way === "down" && check.status === "gap") {
      gaps.set(check.line, [...(gaps.get(check.line) ?? []), check]);
    }
  }
  for (const [row, line] of proof.lines.entries()) {
    if (line.parts.length === 0) continue;
    const rows = line.parts.map((part) => rowOf.get(part) ?? row);
    const from = Math.min(...rows);
    const plain = line.parts.every((part) => kinds.get(part) === "line") && row - from === line.parts.length;
    const chosen = place?.line === line.id;
    if (!plain && !chosen) continue;
    const own = gaps.get(line.id) ?? [];
    const shown = own.find((check) => check.column === place?.column) ?? own[0];
    found.push({
      line: line.id,
      from: Math.min(from, row),
      to: Math.max(row, ...rows),
      tone: own.length > 0 ? "gap" : chosen ? "chosen" : "foots",
      mark: shown?.mark ?? "",
    });
  }
  return found;
}

/** The middle of every row; of a windowed page that of the first one only. */
function middlesOf(table: HTMLTableElement, windowed: boolean): number[] {
  const body = table.tBodies[0];
  if (windowed) return [(body?.offsetTop ?? 0) + ROW / 2];
  return [...table.querySelectorAll<HTMLElement>("tr[data-line]")].map(
    (row) => row.offsetTop + row.offsetHeight / 2,
  );
}
