import type { QueryClient } from "@tanstack/react-query";
import { useMutation, useQueryClient } from "@tanstack/react-query";
import type { RefObject } from "react";

import type { Change, FigureView, Outcome } from "../api/client";
import { api, Refusal, taken } from "../api/client";
import { isKeptProof, isOfOtherEdition, keys } from "../api/keys";
import type { Place, Where } from "../api/queries";
import { figureQuery, packQuery, proofQuery } from "../api/queries";

export type Step = keyof FigureView["keys"];

/** What to do to the pack. A step of a key is taken on the figure as it stands when its turn comes. */
export type PackCommand = Change | "undo" | "redo" | { place: Place; step: Step };

/** The rows in view, which the answer to a change is for: the first, and the one after the last. */
export type Rows = [number, number];

/**
 * Changes run one after another, each on the revision the last one left, so that quick keys
 * never collide with themselves.
 */
export function useCommands(
  where: Where,
  rows: RefObject<Rows>,
  onRefusal: (refusal: Refusal) => void,
  onDone: (says: string) => void,
) {
  const client = useQueryClient();
  return useMutation({
    scope: { id: `commands-${where.pack}` },
    mutationFn: (command: PackCommand) => run(client, where, rows.current, command),
    onSuccess: (outcome) => {
      if (!outcome) return;
      keep(client, where, outcome);
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
  rows: Rows,
  command: PackCommand,
): Promise<Outcome | null> {
  const { pack, statement } = where;
  const { revision } = await client.query({ ...packQuery(pack), staleTime: "static" });
  const params = { path: { pack } };
  if (command === "undo") {
    return taken(api.POST("/api/packs/{pack}/undo", { params, body: { revision, statement, rows } }));
  }
  if (command === "redo") {
    return taken(api.POST("/api/packs/{pack}/redo", { params, body: { revision, statement, rows } }));
  }
  const change = await changeIn(client, where, command);
  if (!change) return null;
  return taken(
    api.POST("/api/packs/{pack}/changes", {
      params,
      body: { revision, change, page: statement, rows },
    }),
  );
}

/** The change a command is, worked out from the figure as it stands where it has to be. */
export async function changeIn(
  client: QueryClient,
  where: Where,
  command: Exclude<PackCommand, string>,
): Promise<Change | null> {
  if (!("step" in command)) return command;
  const { revision } = await client.query({ ...packQuery(where.pack), staleTime: "static" });
  const figure = await client.query(figureQuery(where, command.place, revision));
  return figure.keys[command.step];
}

function keep(client: QueryClient, on: Where, outcome: Outcome): void {
  const where = { ...on, trial: null };
  client.setQueryData(packQuery(where.pack).queryKey, outcome.pack);
  // The page answered with is that of the change's statement; the others may have changed with it.
  const { statement } = outcome.proof;
  client.setQueryData(proofQuery({ ...where, statement }).queryKey, outcome.proof);
  const left = outcome.pack.statements.map(({ id }) => id);
  void client.invalidateQueries({
    queryKey: keys.proofs(where.pack),
    predicate: ({ queryKey }) =>
      queryKey[2] !== statement && left.includes(String(queryKey[2])) && isKeptProof(queryKey),
  });
  void client.invalidateQueries({ queryKey: keys.histories(where.pack) });
  client.removeQueries({ predicate: ({ queryKey }) => isOfOtherEdition(queryKey, where.pack) });
}
