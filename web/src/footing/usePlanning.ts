import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import type { FootingPageView, PackView, Progress } from "../api/client";
import { api, planFooting, taken } from "../api/client";
import type { Apart } from "./Plan";

const MOST_SECONDS = 20; // a search goes on for, and then gives the best plan it has
const SOON = 400; // milliseconds before a search is worth speaking of

/** The footing page by these plans; the last one stays in view while the next is searched for. */
export function usePlanning(pack: PackView, policy: FootingPageView["policy"] | null, apart: Apart) {
  const client = useQueryClient();
  const [progress, setProgress] = useState<Progress | null>(null);
  const [late, setLate] = useState(false);
  const search = useRef("");
  const queryKey = ["footing", pack.id, pack.revision, policy, apart];
  const { data, error, isFetching } = useQuery({
    queryKey,
    queryFn: ({ signal }) => {
      search.current = crypto.randomUUID();
      const plans = { policy, apart, seconds: MOST_SECONDS, search: search.current };
      return planFooting(pack.id, plans, signal, setProgress);
    },
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
    /** Let the search end with the best plan it has; the page is then that plan's. */
    end: () =>
      taken(
        api.POST("/api/packs/{pack}/footing/searches/{search}/end", {
          params: { path: { pack: pack.id, search: search.current } },
        }),
      ),
  };
}
