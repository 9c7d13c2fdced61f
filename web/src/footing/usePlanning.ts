import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useState } from "react";

import type { FootingPageView, PackView, Progress } from "../api/client";
import { planFooting } from "../api/client";
import type { Apart } from "./Plan";

const MOST_SECONDS = 60; // a search goes on for, and then gives the best plan it has
const SOON = 400; // milliseconds before a search is worth speaking of

/** The footing page by these plans; the last one stays in view while the next is searched for. */
export function usePlanning(pack: PackView, policy: FootingPageView["policy"] | null, apart: Apart) {
  const client = useQueryClient();
  const [progress, setProgress] = useState<Progress | null>(null);
  const [late, setLate] = useState(false);
  const queryKey = ["footing", pack.id, pack.revision, policy, apart];
  const { data, error, isFetching } = useQuery({
    queryKey,
    queryFn: ({ signal }) =>
      planFooting(pack.id, { policy, apart, seconds: MOST_SECONDS }, signal, setProgress),
    staleTime: Infinity,
    placeholderData: (last) => last,
    retry: false,
  });
  useEffect(() => {
    if (!isFetching) return;
    const timer = setTimeout(() => setLate(true), SOON);
    return () => {
      clearTimeout(timer);
      setLate(false);
      setProgress(null);
    };
  }, [isFetching]);
  return {
    page: data,
    error,
    progress: isFetching && late ? (progress ?? { done: 0, whole: 0, says: "planning" }) : null,
    stop: () => void client.cancelQueries({ queryKey }),
  };
}
