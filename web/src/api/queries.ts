import { queryOptions, useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import type { Change, DocumentName, DocumentView, GroupView, ProofView, RulebookView } from "./client";
import { api, Refusal, taken } from "./client";
import { keys } from "./keys";

export interface Where {
  pack: string;
  statement: string;
  /** A change on trial: what is read is as the pack would be. */
  trial?: Tried | null;
}

/** A trial's name on the server, and the change it is, to make it again where it was forgotten. The pack
 * as it was has a name of its own, and no change. */
export interface Tried {
  id: string;
  change: Change | null;
}

export interface Place {
  line: string;
  column: string;
}

/** A place as one text that no other place has: ids hold no colon. */
export function placeKey({ line, column }: Place): string {
  return `${line}:${column}`;
}

const tried = (where: Where): string => where.trial?.id ?? "";

export const packsQuery = queryOptions({
  queryKey: keys.packs(),
  queryFn: () => taken(api.GET("/api/packs")),
});

/** Who one is to the server; on its own machine nobody signs in. */
export const sessionQuery = queryOptions({
  queryKey: keys.session(),
  queryFn: () => taken(api.GET("/api/session")),
  staleTime: Infinity,
});

export const issueQuery = (pack: string, revision: number) =>
  queryOptions({
    queryKey: keys.issue(pack, revision),
    queryFn: () => taken(api.GET("/api/packs/{pack}/issue", { params: { path: { pack } } })),
  });

export const packQuery = (pack: string) =>
  queryOptions({
    queryKey: keys.pack(pack),
    queryFn: () => taken(api.GET("/api/packs/{pack}", { params: { path: { pack } } })),
  });

export const proofQuery = (where: Where) =>
  queryOptions({
    queryKey: keys.proof(where.pack, where.statement, tried(where)),
    queryFn: () =>
      reading(where, (read) =>
        taken(api.GET("/api/packs/{pack}/statements/{statement}/proof", { params: read })),
      ),
    // Every answer is new, so comparing it with the last one finds nothing to keep.
    structuralSharing: false,
  });

interface Read {
  path: { pack: string; statement: string };
  query: { trial?: string };
}

/** Reads from a statement. A trial that the server has forgotten is made once more. */
async function reading<T>({ pack, statement, trial }: Where, get: (read: Read) => Promise<T>): Promise<T> {
  const read = { path: { pack, statement }, query: trial ? { trial: trial.id } : {} };
  try {
    return await get(read);
  } catch (error) {
    if (!trial?.change || !(error instanceof Refusal) || error.kind !== "no-such-trial") throw error;
    const { revision } = await taken(api.GET("/api/packs/{pack}", { params: { path: { pack } } }));
    const body = { revision, change: trial.change };
    await taken(api.POST("/api/packs/{pack}/trial", { params: { path: { pack } }, body }));
    return get(read);
  }
}

const CHUNK = 60; // rows asked for at once

/** Asks for the figures of rows in view that have not been sent, and puts them on the page. */
export function useRows(
  where: Where,
  proof: ProofView | null,
  [first, last]: readonly [number, number],
): void {
  const client = useQueryClient();
  const from = Math.floor(first / CHUNK) * CHUNK;
  const until = Math.ceil(last / CHUNK) * CHUNK;
  const wanting =
    proof?.lines.slice(first, last).some((line) => line.figured && line.figures.length === 0) ?? false;
  const rows = useQuery({
    queryKey: keys.rows(where.pack, where.statement, tried(where), proof?.revision ?? 0, [from, until]),
    queryFn: () =>
      reading(where, ({ path, query }) =>
        taken(
          api.GET("/api/packs/{pack}/statements/{statement}/rows", {
            params: { path, query: { ...query, first: from, last: until } },
          }),
        ),
      ),
    enabled: wanting,
    staleTime: Infinity,
    gcTime: 10_000,
  }).data;
  useEffect(() => {
    if (!rows || !wanting) return;
    client.setQueryData(proofQuery(where).queryKey, (page) => {
      if (page?.revision !== rows.revision) return page;
      const lines = [...page.lines];
      lines.splice(rows.first, rows.lines.length, ...rows.lines);
      return { ...page, lines };
    });
  }, [client, rows, wanting, where]);
}

export const commandsQuery = queryOptions({
  queryKey: keys.commands(),
  queryFn: () => taken(api.GET("/api/commands")),
  staleTime: Infinity,
});

export const figureQuery = (where: Where, place: Place, revision: number) =>
  queryOptions({
    queryKey: keys.figure(where.pack, where.statement, placeKey(place), revision, tried(where)),
    queryFn: () =>
      reading(where, ({ path, query }) =>
        taken(
          api.GET("/api/packs/{pack}/statements/{statement}/figures/{line}/{column}", {
            params: { path: { ...path, ...place }, query },
          }),
        ),
      ),
    staleTime: Infinity,
  });

const nudgesQuery = (where: Where, revision: number) =>
  queryOptions({
    queryKey: keys.nudges(where.pack, where.statement, revision, tried(where)),
    queryFn: () =>
      reading(where, (read) =>
        taken(api.GET("/api/packs/{pack}/statements/{statement}/nudges", { params: read })),
      ),
    staleTime: Infinity,
  });

/** The margin of one figure; the last one stays in view while the next is on its way. */
export function useFigure(where: Where, place: Place, revision: number) {
  return useQuery({ ...figureQuery(where, place, revision), placeholderData: (last) => last });
}

/** Figures that one could be tied to, of those whose names have the words typed. */
export function useTieable(where: Where, place: Place, revision: number, typed: string) {
  const { pack, statement } = where;
  return useQuery({
    queryKey: keys.tieable(pack, statement, placeKey(place), revision, typed),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/statements/{statement}/figures/{line}/{column}/tieable", {
          params: { path: { pack, statement, ...place }, query: { typed } },
        }),
      ),
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
}

/** Figures of every statement whose names have every word typed. */
export function useFound({ pack, trial }: Where, revision: number, typed: string) {
  return useQuery({
    queryKey: keys.found(pack, revision, typed),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/figures", {
          params: { path: { pack }, query: { typed, trial: trial?.id ?? null } },
        }),
      ),
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
}

export function useNudges(where: Where, revision: number) {
  return useQuery({ ...nudgesQuery(where, revision), placeholderData: (last) => last });
}

/** What was changed, newest first; of one figure what decided, held or moved it. */
/** The changes to a pack, newest first: all, or those that touched a figure or a rule. */
export function useHistory(pack: string, figure: string | null, rule: string | null) {
  return useQuery({
    queryKey: keys.history(pack, figure ?? "", rule ?? ""),
    queryFn: () =>
      taken(api.GET("/api/packs/{pack}/history", { params: { path: { pack }, query: { figure, rule } } })),
    staleTime: 0,
    placeholderData: (last) => last,
  });
}

/** The house styles that are offered, and what a pack follows. */
export const houseStylesQuery = (pack: string | null, revision: number) =>
  queryOptions({
    queryKey: keys.houseStyles(pack ?? "", revision),
    queryFn: () => taken(api.GET("/api/house-styles", { params: { query: pack ? { pack } : {} } })),
  });

export const rulebookQuery = (pack: string, revision: number, trial: Tried | null) =>
  queryOptions({
    queryKey: keys.rulebook(pack, revision, trial?.id ?? ""),
    queryFn: () =>
      reading({ pack, statement: "", trial }, ({ path, query }) =>
        taken(api.GET("/api/packs/{pack}/rulebook", { params: { path, query } })),
      ),
    staleTime: Infinity,
    placeholderData: (last: RulebookView | undefined) => last,
  });

/** The points of a pack, and who signed which page of its edition. */
export const reviewQuery = (pack: string, revision: number) =>
  queryOptions({
    queryKey: keys.review(pack, revision),
    queryFn: () => taken(api.GET("/api/packs/{pack}/review", { params: { path: { pack } } })),
    staleTime: Infinity,
  });

/** What is left of issues whose packs were deleted. */
export const deletedIssuesQuery = queryOptions({
  queryKey: keys.deletedIssues(),
  queryFn: () => taken(api.GET("/api/issues/deleted")),
});

/** The documents of a pack, with how their numbers stand. */
export const documentsQuery = (pack: string, revision: number) =>
  queryOptions({
    queryKey: keys.documents(pack, revision),
    queryFn: () => taken(api.GET("/api/packs/{pack}/documents", { params: { path: { pack } } })),
    placeholderData: (last: DocumentName[] | undefined) => last,
  });

/** One document with every number marked. */
export const documentQuery = (pack: string, revision: number, document: number) =>
  queryOptions({
    queryKey: keys.document(pack, revision, document),
    queryFn: () =>
      taken(api.GET("/api/packs/{pack}/documents/{document}", { params: { path: { pack, document } } })),
    placeholderData: (last: DocumentView | undefined) => last,
  });

/** Every pack in use with what is open in it; asked again while some are still being looked at. */
export const groupQuery = (edition: string) =>
  queryOptions({
    queryKey: keys.group(edition),
    queryFn: () => taken(api.GET("/api/group", { params: { query: { edition } } })),
    placeholderData: (last: GroupView | undefined) => last,
    refetchInterval: (query) => ((query.state.data?.waiting ?? 0) > 0 ? 300 : 15_000),
  });

/** The figures of a pack that are taken from others. */
export const takenQuery = (pack: string, revision: number) =>
  queryOptions({
    queryKey: keys.taken(pack, revision),
    queryFn: () => taken(api.GET("/api/packs/{pack}/taken", { params: { path: { pack } } })),
  });
