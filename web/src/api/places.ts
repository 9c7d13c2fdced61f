import { useQuery } from "@tanstack/react-query";

import type { DashboardView, PackView } from "./client";
import { api, taken } from "./client";
import { keys, packOf } from "./keys";

/** Every edition of a pack, its own first: whether it foots, and what is said only in it. */
export function useEditions(pack: string, revision: number) {
  const own = packOf(pack);
  return useQuery({
    queryKey: keys.editions(own, revision),
    queryFn: () => taken(api.GET("/api/packs/{pack}/editions", { params: { path: { pack: own } } })),
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
}

/** A statement in the edition in hand and another. */
export function useBeside(pack: string, revision: number, statement: string, edition: string | null) {
  return useQuery({
    queryKey: keys.beside(pack, revision, statement, edition ?? ""),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/statements/{statement}/beside/{edition}", {
          params: { path: { pack, statement, edition: edition ?? "" } },
        }),
      ),
    enabled: edition !== null,
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
}

/** What a passage may follow, by the words typed behind an @. */
export function useMarks(pack: string, revision: number, dashboard: string, item: string, typed: string) {
  return useQuery({
    queryKey: keys.marks(pack, revision, dashboard, item, typed),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/dashboards/{dashboard}/items/{item}/marks", {
          params: { path: { pack: packOf(pack), dashboard, item }, query: { typed } },
        }),
      ),
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
}

/** A dashboard as its readers see it; the last one stays in view while the next is on its way. */
export function useDashboard(pack: string, revision: number, dashboard: string | null) {
  return useQuery({
    queryKey: keys.dashboard(pack, revision, dashboard ?? ""),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/dashboards/{dashboard}", {
          params: { path: { pack, dashboard: dashboard ?? "" } },
        }),
      ),
    enabled: dashboard !== null,
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
}

/** What is placed and does not agree with the page of its edition, on every dashboard. */
export function useAgreement(pack: string, revision: number) {
  const own = packOf(pack);
  return useQuery({
    queryKey: keys.agreement(own, revision),
    queryFn: () => taken(api.GET("/api/packs/{pack}/agreement", { params: { path: { pack: own } } })),
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
}

/** A tile or chart as a sentence. */
export function useItemWords(pack: PackView, view: DashboardView, item: string) {
  const dashboard = view.id;
  return useQuery({
    queryKey: keys.words(pack.id, view.revision, dashboard, item),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/dashboards/{dashboard}/items/{item}/words", {
          params: { path: { pack: pack.id, dashboard, item } },
        }),
      ),
    // While the dashboard is still that of the revision before, its items may be gone.
    enabled: view.revision === pack.revision,
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
}

export type Sort = "page" | "tile" | "chart" | "passage";

/** One figure wherever it is printed, and what decides how one sort of place prints it. */
export function useEverywhere(pack: string, revision: number, figure: readonly string[] | null, place: Sort) {
  const [statement = "", line = "", column = ""] = figure ?? [];
  return useQuery({
    queryKey: keys.everywhere(pack, revision, `${statement}:${line}:${column}`, place),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/statements/{statement}/figures/{line}/{column}/everywhere", {
          params: { path: { pack, statement, line, column }, query: { place } },
        }),
      ),
    enabled: figure !== null,
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
}
