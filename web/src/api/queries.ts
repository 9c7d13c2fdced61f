import { queryOptions, useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { QueryClient } from "@tanstack/react-query";
import { useEffect } from "react";

import type { Change, FigureView, Outcome, ProofView, RulebookView } from "./client";
import { api, Refusal, taken } from "./client";

export interface Where {
  pack: string;
  statement: string;
  /** A change on trial: what is read is as the pack would be. */
  trial?: Tried | null;
}

/** A trial's name on the server, and the change it is, to make it again where it was forgotten. */
export interface Tried {
  id: string;
  change: Change;
}

export interface Place {
  line: string;
  column: string;
}

export const packsQuery = queryOptions({
  queryKey: ["packs"],
  queryFn: () => taken(api.GET("/api/packs")),
});

export const packQuery = (pack: string) =>
  queryOptions({
    queryKey: ["pack", pack],
    queryFn: () => taken(api.GET("/api/packs/{pack}", { params: { path: { pack } } })),
  });

export const proofQuery = (where: Where) =>
  queryOptions({
    queryKey: ["proof", where.pack, where.statement, where.trial?.id ?? ""],
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
    if (!trial || !(error instanceof Refusal) || error.kind !== "no-such-trial") throw error;
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
    queryKey: ["rows", where.pack, where.statement, where.trial?.id ?? "", proof?.revision, from, until],
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

const figureQuery = (where: Where, place: Place, revision: number) =>
  queryOptions({
    queryKey: [
      "figure",
      where.pack,
      where.statement,
      place.line,
      place.column,
      revision,
      where.trial?.id ?? "",
    ],
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
    queryKey: ["nudges", where.pack, where.statement, revision, where.trial?.id ?? ""],
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
    queryKey: ["tieable", pack, statement, place.line, place.column, revision, typed],
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

export function useNudges(where: Where, revision: number) {
  return useQuery({ ...nudgesQuery(where, revision), placeholderData: (last) => last });
}

export function useHistory(pack: string, open: boolean) {
  return useQuery({
    queryKey: ["history", pack],
    queryFn: () => taken(api.GET("/api/packs/{pack}/history", { params: { path: { pack } } })),
    enabled: open,
    staleTime: 0,
  });
}

/** What to do to the pack. A function gets the figure as it stands when its turn comes. */
export type Deed = Change | "undo" | "redo" | { place: Place; from: (figure: FigureView) => Change | null };

/**
 * Changes run one after another, each on the revision the last one left, so that quick keys
 * never collide with themselves.
 */
export function useDeeds(
  where: Where,
  inHand: Place | null,
  inView: () => [number, number],
  onRefusal: (refusal: Refusal) => void,
  onDone: (says: string) => void,
) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `deeds-${where.pack}` },
    mutationFn: (deed: Deed) => run(client, where, inHand, inView(), deed),
    onSuccess: (outcome) => {
      if (!outcome) return;
      keep(client, where, inHand, outcome);
      onDone(outcome.says);
    },
    onError: (error) => {
      if (!(error instanceof Refusal)) throw error;
      if (error.kind === "stale-revision") void client.invalidateQueries();
      onRefusal(error);
    },
  });
}

async function run(
  client: QueryClient,
  where: Where,
  inHand: Place | null,
  rows: [number, number],
  deed: Deed,
): Promise<Outcome | null> {
  const { pack, statement } = where;
  const { revision } = await client.query({ ...packQuery(pack), staleTime: "static" });
  const params = { path: { pack } };
  const figure: [string, string] | null = inHand && [inHand.line, inHand.column];
  if (deed === "undo") {
    return taken(api.POST("/api/packs/{pack}/undo", { params, body: { revision, statement, figure, rows } }));
  }
  if (deed === "redo") {
    return taken(api.POST("/api/packs/{pack}/redo", { params, body: { revision, statement, figure, rows } }));
  }
  const change = await changeIn(client, where, deed);
  if (!change) return null;
  return taken(
    api.POST("/api/packs/{pack}/changes", {
      params,
      body: { revision, change, page: statement, figure, rows },
    }),
  );
}

/** The change a deed is, worked out from the figure as it stands where it has to be. */
export async function changeIn(
  client: QueryClient,
  where: Where,
  deed: Exclude<Deed, string>,
): Promise<Change | null> {
  if (!("from" in deed)) return deed;
  const { revision } = await client.query({ ...packQuery(where.pack), staleTime: "static" });
  return deed.from(await client.query(figureQuery(where, deed.place, revision)));
}

function keep(client: QueryClient, on: Where, inHand: Place | null, outcome: Outcome): void {
  const where = { ...on, trial: null };
  if (inHand && outcome.figure && outcome.proof.statement === where.statement) {
    const { queryKey } = figureQuery(where, inHand, outcome.pack.revision);
    client.setQueryData(queryKey, outcome.figure);
  }
  client.setQueryData(packQuery(where.pack).queryKey, outcome.pack);
  // The page answered with is that of the change's statement; the others may have changed with it.
  const { statement } = outcome.proof;
  client.setQueryData(proofQuery({ ...where, statement }).queryKey, outcome.proof);
  void client.invalidateQueries({
    queryKey: ["proof", where.pack],
    predicate: (query) => query.queryKey[2] !== statement && query.queryKey[3] === "",
  });
  void client.invalidateQueries({ queryKey: ["history", where.pack] });
}

export const rulebookQuery = (pack: string, revision: number, trial: Tried | null) =>
  queryOptions({
    queryKey: ["rulebook", pack, revision, trial?.id ?? ""],
    queryFn: () =>
      reading({ pack, statement: "", trial }, ({ path, query }) =>
        taken(api.GET("/api/packs/{pack}/rulebook", { params: { path, query } })),
      ),
    staleTime: Infinity,
    placeholderData: (last: RulebookView | undefined) => last,
  });
