import type { RefObject } from "react";
import { useEffect, useState } from "react";

/** Whether columns go on past the right edge of what scrolls. */
export function useOverflow(desk: RefObject<HTMLElement | null>): boolean {
  const [beyond, setBeyond] = useState(false);
  useEffect(() => {
    const page = desk.current;
    if (!page) return;
    const look = () => setBeyond(page.scrollWidth - page.clientWidth - page.scrollLeft > EDGE);
    look();
    page.addEventListener("scroll", look, { passive: true });
    const watch = new ResizeObserver(look);
    watch.observe(page);
    if (page.firstElementChild) watch.observe(page.firstElementChild);
    return () => {
      page.removeEventListener("scroll", look);
      watch.disconnect();
    };
  }, [desk]);
  return beyond;
}

const EDGE = 40; // pixels of paper past the last column, which nobody misses
