import { useMemo } from "react";

import { placeKey } from "../api/queries";
import { useHands } from "../review/Together";
import { useUnsettled } from "../review/useReview";

/** What reviewers put to the page: by figure or line what the points on it say, and who else has it in hand. */
export interface Marks {
  /** By figure as line:column, and by line as line: alone. */
  points: ReadonlyMap<string, string>;
  hands: ReadonlyMap<string, string>;
}

export function useMarks(statement: string): Marks {
  const unsettled = useUnsettled();
  const hands = useHands(statement);
  const points = useMemo(() => {
    const found = new Map<string, string>();
    for (const point of unsettled) {
      if (point.statement !== statement || !point.line) continue;
      const key = placeKey({ line: point.line, column: point.column ?? "" });
      const said = `${point.author || "Somebody"}: ${point.words}`;
      found.set(key, [found.get(key), said].filter(Boolean).join("; "));
    }
    return found;
  }, [statement, unsettled]);
  return useMemo(() => ({ points, hands }), [points, hands]);
}
