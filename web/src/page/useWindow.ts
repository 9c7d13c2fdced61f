import type { RefObject } from "react";
import { useEffect, useLayoutEffect, useState } from "react";
import { flushSync } from "react-dom";

import type { ProofView } from "../api/client";
import type { Place } from "../api/queries";

export const ROW = 24; // pixels: every row of a windowed page is as high
const BEYOND = 6; // rows drawn above and below the view

/** The rows to draw, and the rows seen, each from its first to before its last. */
interface Window {
  drawn: [number, number];
  seen: [number, number];
  windowed: boolean;
}

/**
 * The part of the page to draw, where others are left out. The selected row comes into view when
 * it is chosen, and paper gets every row.
 */
export function useWindow(
  desk: RefObject<HTMLElement | null>,
  proof: ProofView,
  place: Place | null,
): Window {
  const count = proof.lines.length;
  const windowed = proof.large;
  const [view, setView] = useState({ top: 0, height: 800 });
  const [printing, setPrinting] = useState(false);

  useEffect(() => {
    const page = desk.current;
    if (!page || !windowed) return;
    const look = () => setView({ top: page.scrollTop, height: page.clientHeight });
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

  if (!windowed || printing) return { drawn: [0, count], seen: [0, count], windowed: false };
  const top = Math.floor(view.top / ROW);
  const bottom = Math.ceil((view.top + view.height) / ROW);
  const within = (beyond: number): [number, number] => [
    Math.max(0, top - beyond),
    Math.min(count, bottom + beyond),
  ];
  return { drawn: within(BEYOND), seen: within(0), windowed: true };
}
