import { useCallback, useRef } from "react";

import type { Action } from "../pack/actions";
import { usePackControls } from "../pack/OpenPack";
import { useSelection, useSelectionControls } from "../pack/SelectedFigure";
import { usePointWalk } from "../review/usePointWalk";

type Step = (by: 1 | -1) => void;

/** The walk from one open thing to the next: gaps of the page first, then the points that wait. */
export function useWalk(): { step: Step; waiting: number } {
  const { say } = usePackControls();
  const { gaps, active } = useSelection();
  const { visit } = useSelectionControls();
  const { waiting, visit: visitPoint } = usePointWalk();
  const lastPoint = useRef<string | null>(null);
  const step = useCallback(
    (by: 1 | -1) => {
      const stops = [
        ...gaps.map((check) => ({ id: check.id, point: null, run: () => visit(check) })),
        ...waiting.map((point) => ({ id: point.id, point: point.id, run: () => visitPoint(point) })),
      ];
      if (stops.length === 0) {
        say("Every sum on this page foots");
        return;
      }
      const at = stops.findIndex(({ id, point }) =>
        lastPoint.current === null ? point === null && id === active?.id : point === lastPoint.current,
      );
      const next = stops[at < 0 ? (by > 0 ? 0 : stops.length - 1) : (at + by + stops.length) % stops.length];
      lastPoint.current = next?.point ?? null;
      next?.run();
    },
    [gaps, active, visit, visitPoint, say, waiting],
  );
  return { step, waiting: waiting.length };
}

/** The walk as keys and a button. */
export function walkActions(gaps: number, waiting: number, step: Step): Action[] {
  const next = gaps === 0 && waiting > 0 ? "Next point" : "Next gap";
  return [
    { name: next, key: "n", button: next, dim: gaps + waiting === 0, run: () => step(1) },
    { name: "Previous gap or point", key: "p", run: () => step(-1) },
  ];
}
