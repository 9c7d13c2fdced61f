import { useCallback, useMemo } from "react";

import type { PointView } from "../api/client";
import { usePack, usePackControls } from "../pack/OpenPack";
import { showFigure } from "../pack/focus";
import { useUnsettled } from "./useReview";

interface PointWalk {
  unsettled: readonly PointView[];
  /** The points that wait for who is at the desk. */
  waiting: readonly PointView[];
  visit: (point: PointView) => void;
}

/** The way from point to point: to the figure, page or dashboard that each is on. */
export function usePointWalk(): PointWalk {
  const { pack } = usePack();
  const { go, say } = usePackControls();
  const unsettled = useUnsettled();
  const first = pack.statements[0]?.id ?? null;
  const visit = useCallback(
    (point: PointView) => {
      if (!point.on) {
        go({ screen: "page", statement: first, place: null });
      } else if (point.dashboard) {
        go({ screen: "places", dashboard: point.dashboard, item: point.item });
      } else {
        const place = point.line && point.column ? { line: point.line, column: point.column } : null;
        go({ screen: "page", statement: point.statement ?? first, place });
        if (place) showFigure(place);
      }
      say(`${point.author || "Somebody"} asks: ${point.words}`);
    },
    [first, go, say],
  );
  return useMemo(
    () => ({ unsettled, waiting: unsettled.filter(({ waits }) => waits), visit }),
    [unsettled, visit],
  );
}
