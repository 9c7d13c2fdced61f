import type { PointerEvent as ReactPointerEvent } from "react";
import { useCallback, useRef, useState } from "react";

import type { LineView } from "../api/client";

/** Onto a total makes the line a part of it; before and after put it in another place. */
type How = "onto" | "before" | "after";

export interface Drop {
  line: string;
  how: How;
}

const EDGE = 7; // pixels at a total's edges that mean a place beside it

/** Dragging a line by its grip: which is dragged, and where it would go. */
export function useDragging(lines: LineView[], onDrop: (line: string, drop: Drop) => void) {
  const [dragged, setDragged] = useState<string | null>(null);
  const [target, setTarget] = useState<Drop | null>(null);
  const last = useRef<Drop | null>(null);

  const onGrip = useCallback(
    (event: ReactPointerEvent, line: string) => {
      if (event.button !== 0) return;
      event.preventDefault();
      setDragged(line);
      const move = (to: PointerEvent) => {
        last.current = dropAt(lines, line, to.clientX, to.clientY);
        setTarget(last.current);
      };
      const stop = () => {
        window.removeEventListener("pointermove", move);
        window.removeEventListener("pointerup", end);
        window.removeEventListener("keydown", leave);
        setDragged(null);
        setTarget(null);
        last.current = null;
      };
      const end = () => {
        const drop = last.current;
        stop();
        if (drop) onDrop(line, drop);
      };
      const leave = (key: KeyboardEvent) => {
        if (key.key === "Escape") stop();
      };
      window.addEventListener("pointermove", move);
      window.addEventListener("pointerup", end);
      window.addEventListener("keydown", leave);
    },
    [lines, onDrop],
  );
  return { dragged, target, onGrip };
}

function dropAt(lines: LineView[], dragged: string, x: number, y: number): Drop | null {
  const row = document.elementFromPoint(x, y)?.closest<HTMLElement>("tr[data-line]");
  const line = lines.find((each) => each.id === row?.dataset.line);
  if (!row || !line || line.id === dragged) return null;
  const { top, height } = row.getBoundingClientRect();
  const adds = line.kind === "subtotal" || line.kind === "total";
  if (adds && y - top > EDGE && top + height - y > EDGE) return { line: line.id, how: "onto" };
  return { line: line.id, how: y - top < height / 2 ? "before" : "after" };
}
