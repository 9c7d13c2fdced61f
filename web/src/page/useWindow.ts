import type { RefObject } from "react";
import { useEffect, useLayoutEffect, useRef, useState } from "react";
import { flushSync } from "react-dom";

import type { ProofView } from "../api/client";
import type { Place } from "../api/queries";

export const ROW = 24; // pixels: every row of a windowed page is as high
const BEYOND = 2; // rows drawn above and below the view

type Span = [number, number]; // from the first to before the last

/** The rows and the columns to draw. */
interface Window {
  drawn: Span;
  columns: Span;
  windowed: boolean;
}

/** Pixels that the label and every column of a windowed page are wide. */
export interface Widths {
  label: number;
  columns: number[];
}

/**
 * The part of the page to draw, where others are left out. The selected figure comes into view when
 * it is chosen, and paper gets every row and column.
 */
export function useWindow(
  desk: RefObject<HTMLElement | null>,
  proof: ProofView,
  place: Place | null,
  widths: Widths,
): Window {
  const count = proof.lines.length;
  const windowed = proof.large;
  const [view, setView] = useState({ top: 0, height: 800, left: 0, width: 800 });
  const [printing, setPrinting] = useState(false);

  useEffect(() => {
    const page = desk.current;
    if (!page || !windowed) return;
    const look = () =>
      setView({
        top: page.scrollTop,
        height: page.clientHeight,
        left: page.scrollLeft,
        width: page.clientWidth,
      });
    look();
    page.addEventListener("scroll", look, { passive: true });
    const watch = new ResizeObserver(look);
    watch.observe(page);
    const before = () => flushSync(() => setPrinting(true));
    const after = () => setPrinting(false);
    window.addEventListener("beforeprint", before);
    window.addEventListener("afterprint", after);
    return () => {
      page.removeEventListener("scroll", look);
      watch.disconnect();
      window.removeEventListener("beforeprint", before);
      window.removeEventListener("afterprint", after);
    };
  }, [desk, windowed]);

  const row = windowed ? proof.lines.findIndex((line) => line.id === place?.line) : -1;
  useLayoutEffect(() => {
    const page = desk.current;
    const body = page?.querySelector("tbody");
    if (!page || !body || row < 0) return;
    const head = body.getBoundingClientRect().top - page.getBoundingClientRect().top + page.scrollTop;
    const top = head + row * ROW;
    const hidden = top < page.scrollTop + 2 * ROW || top + 2 * ROW > page.scrollTop + page.clientHeight;
    if (!hidden) return;
    page.scrollTo({ top: top - page.clientHeight / 2, behavior: "instant" });
  }, [desk, row]);

  const kept = useRef(false);
  useLayoutEffect(() => {
    // A cell that has the focus may be left out while the page scrolls: then the table has it, and its keys.
    const page = desk.current;
    if (!page || !windowed) return;
    const now = document.activeElement;
    if (kept.current && now === document.body)
      page.querySelector<HTMLElement>(".statement")?.focus({ preventScroll: true });
    kept.current = page.contains(document.activeElement);
  });

  const column = windowed ? proof.columns.findIndex((each) => each.id === place?.column) : -1;
  const start = starts(widths.columns);
  const [left, right] = [start[column] ?? 0, start[column + 1] ?? 0];
  useLayoutEffect(() => {
    const page = desk.current;
    if (!page || column < 0) return;
    const room = page.clientWidth - widths.label - EDGE;
    const hidden = left < page.scrollLeft || right > page.scrollLeft + room;
    if (hidden) page.scrollTo({ left: Math.max(0, right - room + EDGE), behavior: "instant" });
    // Only what is chosen comes into view: not again when its column grows.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [desk, column]);

  const all: Span = [0, proof.columns.length];
  if (!windowed || printing) return { drawn: [0, count], columns: all, windowed: false };
  const top = Math.floor(view.top / ROW);
  const bottom = Math.ceil((view.top + view.height) / ROW);
  const drawn: Span = [Math.max(0, top - BEYOND), Math.min(count, bottom + BEYOND)];
  const before = start.findIndex((x) => x > view.left - EDGE) - 1;
  const after = start.findIndex((x) => x > view.left + view.width - widths.label);
  const columns: Span = [Math.max(0, before - 1), after < 0 ? all[1] : Math.min(all[1], after + 1)];
  return { drawn, columns, windowed: true };
}

const EDGE = 64; // pixels of paper around the table, at most

/** Where every column starts, right of the label, and where the last one ends. */
function starts(widths: number[]): number[] {
  let end = 0;
  return [0, ...widths.map((width) => (end += width))];
}
