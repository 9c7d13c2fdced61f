import { useQuery } from "@tanstack/react-query";

import type { ColumnView } from "../api/client";
import { proofQuery } from "../api/queries";
import { usePack } from "../pack/PackInHand";

const NONE: ColumnView[] = [];

/** The columns of the statement in hand. */
export function useProofColumns(): ColumnView[] {
  const { where } = usePack();
  return useQuery(proofQuery({ ...where, trial: null })).data?.columns ?? NONE;
}
