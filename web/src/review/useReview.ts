import { useQuery } from "@tanstack/react-query";
import { useMemo } from "react";

import type { PointView, ReviewView, Subject } from "../api/client";
import { reviewQuery } from "../api/queries";
import { usePack } from "../pack/OpenPack";

/** Points and signatures of the pack in hand; null where it has none. */
export function useReview(): ReviewView | null {
  const { pack } = usePack();
  const { data } = useQuery({
    ...reviewQuery(pack.id, pack.revision),
    enabled: pack.in_review,
    placeholderData: (last: ReviewView | undefined) => last,
  });
  return pack.in_review ? (data ?? null) : null;
}

/** The points that are not settled. */
export function useUnsettled(): PointView[] {
  const review = useReview();
  return useMemo(() => review?.points.filter(({ standing }) => standing !== "settled") ?? [], [review]);
}

const PARTS = ["statement", "line", "column", "dashboard", "item"] as const;

/** Whether a point is on just this, and not on a part of it. One on what is gone is on the pack. */
export function isOn(point: PointView, on: Subject): boolean {
  if (!point.on) return PARTS.every((part) => !on[part]);
  return PARTS.every((part) => (point[part] ?? null) === (on[part] ?? null));
}
