import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { RefObject } from "react";
import { useEffect, useRef } from "react";

import type { Change, CommandView, PackView, TrialView } from "../api/client";
import { api, Refusal, taken } from "../api/client";
import { keys } from "../api/keys";
import type { Tried } from "../api/queries";
import { commandsQuery, proofQuery } from "../api/queries";
import type { PackCommand, Rows } from "./commands";
import { changeIn } from "./commands";
import { together } from "./formCommands";

type Together = Extract<Change, { kind: "together" }>;
export type RuleChange = Together["changes"][number];

/** Changes of rules on trial, and what they would do together. */
export interface Trial {
  changes: RuleChange[];
  view: TrialView;
}

/** Changes as one: the only one as it is, several together. */
export function asOne(changes: RuleChange[]): Change | null {
  const [first, ...others] = changes;
  return first && others.length > 0 ? together(first.statement, changes) : (first ?? null);
}

/** What to read by, for as long as the pack is as it was when the changes were tried. */
export function triedOf(trial: Trial | null, pack: PackView): Tried | null {
  const change = trial && asOne(trial.changes);
  return change && trial.view.revision === pack.revision ? { id: trial.view.id, change } : null;
}

/** The figures that a trial would print otherwise; the last ones stay in view until they are told. */
export function useChanges(pack: string, statement: string, trial: Trial) {
  const { id } = trial.view;
  return useQuery({
    queryKey: keys.changes(pack, id, statement),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/trials/{trial}", {
          params: { path: { pack, trial: id }, query: { page: statement } },
        }),
      ),
    staleTime: Infinity,
    placeholderData: (last) => last,
  }).data;
}

/** Whether a change is tried before it is kept: those of rules and of footing are. */
function isTried(change: Change, commands: CommandView[]): change is RuleChange {
  return commands.some(({ kind, can_be_tried }) => kind === change.kind && can_be_tried);
}

/** Another value for the word that was changed last takes the place of that change. */
function joined(changes: RuleChange[], change: RuleChange): RuleChange[] {
  const last = changes.at(-1);
  const valued = "value" in change && last && "value" in last;
  const again = valued && JSON.stringify({ ...last, value: 0 }) === JSON.stringify({ ...change, value: 0 });
  return again ? [...changes.slice(0, -1), change] : [...changes, change];
}

/** What to try: a change on top of the trial, the trial again, or the trial without its last change. */
type Attempt = Exclude<PackCommand, string> | "again" | "back";

interface Trying {
  pack: PackView;
  statement: string;
  trial: Trial | null;
  seen: RefObject<Rows>;
  onTrial: (trial: Trial | null) => void;
  onOther: (change: Change) => void;
  onRefusal: (refusal: Refusal) => void;
}

/**
 * Tries changes of rules, one after another, each on top of the last. Nothing is kept. A change of
 * something else than rules is handed on.
 */
export function useTrial({ pack, statement, trial, seen, onTrial, onOther, onRefusal }: Trying) {
  const client = useQueryClient();
  const latest = useRef(trial);
  useEffect(() => {
    latest.current = trial;
  }, [trial]);

  const trying = useMutation({
    scope: { id: `trials-${pack.id}` },
    mutationFn: async (attempt: Attempt): Promise<Trial | Change | null> => {
      let changes = latest.current?.changes ?? [];
      if (attempt === "back") changes = changes.slice(0, -1);
      else if (attempt !== "again") {
        const tried = triedOf(latest.current, pack);
        const change = await changeIn(client, { pack: pack.id, statement, trial: tried }, attempt);
        if (!change) return null;
        const commands = await client.query(commandsQuery);
        if (!isTried(change, commands)) return change;
        changes = joined(changes, change);
      }
      const change = asOne(changes);
      if (!change) return null;
      const params = { path: { pack: pack.id } };
      const body = { revision: pack.revision, change, page: statement, rows: seen.current };
      return { changes, view: await taken(api.POST("/api/packs/{pack}/trial", { params, body })) };
    },
    onSuccess: (made, attempt) => {
      if (made && "kind" in made) {
        onOther(made);
        return;
      }
      if (!made && attempt !== "back") return;
      latest.current = made;
      const tried = triedOf(made, pack);
      if (made && tried) {
        client.setQueryData(proofQuery({ pack: pack.id, statement, trial: tried }).queryKey, made.view.proof);
      }
      onTrial(made);
    },
    onError: (error, attempt) => {
      if (!(error instanceof Refusal)) throw error;
      if (attempt === "again") onTrial(null);
      onRefusal(error);
    },
  });

  // The pack has changed under the trial, so it is made again.
  const stale = trial !== null && trial.view.revision !== pack.revision;
  const { mutate, isPending } = trying;
  useEffect(() => {
    if (stale && !isPending) mutate("again");
  }, [stale, isPending, mutate]);
  return trying;
}
