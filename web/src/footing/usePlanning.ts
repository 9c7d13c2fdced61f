import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useState } from "react";

import type { Foot, FootingPageView, PackView, Progress } from "../api/client";
import { api, planFooting, taken } from "../api/client";
import { keys } from "../api/keys";

const MOST_SECONDS = 20; // a search goes on for, and then gives the best plan it has
const SOON = 400; // milliseconds before a search is worth speaking of

export interface Planning {
  page: FootingPageView | undefined;
  error: Error | null;
  progress: Progress | null;
  stop: () => void;
  /** Let the search end with the best plan it has; the page is then that plan's. */
  end: () => Promise<unknown>;
}

/** The footing page by the plans of a command, or by the pack's own; the last one stays in view while the
 * next is searched for. */
export function usePlanning(pack: PackView, foot: Foot | null): Planning {
  const client = useQueryClient();
  const [progress, setProgress] = useState<Progress | null>(null);
  const [late, setLate] = useState(false);
  const search = useRef("");
  const plans = { policy: foot?.policy ?? null, apart: foot?.apart ?? {} };
  const queryKey = keys.footing(pack.id, pack.revision, plans);
  const { data, error, isFetching } = useQuery({
    queryKey,
    queryFn: ({ signal }) => {
      search.current = crypto.randomUUID();
      const asked = { ...plans, seconds: MOST_SECONDS, search: search.current };
      return planFooting(pack.id, asked, signal, setProgress);
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
    progress: isFetching && late ? (progress ?? { done: 0, total: 0, says: "planning" }) : null,
    stop: () => void client.cancelQueries({ queryKey }),
    end: () =>
      taken(
        api.POST("/api/packs/{pack}/footing/searches/{search}/end", {
          params: { path: { pack: pack.id, search: search.current } },
        }),
      ),
  };
}
