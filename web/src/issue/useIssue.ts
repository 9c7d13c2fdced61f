import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import type { IssuePage, IssueState, Progress } from "../api/client";
import { api, author, issueEdition, Refusal, setAuthor, taken } from "../api/client";
import { issueQuery } from "../api/queries";
import { usePackControls, usePack } from "../pack/OpenPack";

/** What whoever issues says of it. What was typed stays while checks are settled elsewhere. */
interface Saying {
  by: string;
  reviewed: string;
  to: string;
  state: IssueState;
  files: readonly string[] | null;
  reasons: Readonly<Record<string, string>>;
}

const typed = new Map<string, Saying>();

function fresh(): Saying {
  return { by: author(), reviewed: "", to: "", state: "draft", files: null, reasons: {} };
}

export interface Issuing {
  page: IssuePage | undefined;
  error: Error | null;
  saying: Saying;
  say: (said: Partial<Saying>) => void;
  chosen: (id: string, usual: boolean) => boolean;
  issue: () => void;
  stop: () => void;
  progress: Progress | null;
  withdraw: (number: number, why: string) => void;
  busy: boolean;
}

/** The edition in hand on its way out. */
export function useIssue(): Issuing {
  const { pack } = usePack();
  const { say: tell, setProblem } = usePackControls();
  const client = useQueryClient();
  const query = useQuery(issueQuery(pack.id, pack.revision));
  const page = query.data;
  const [progress, setProgress] = useState<Progress | null>(null);
  const stopping = useRef<AbortController | null>(null);
  const [saying, setSaying] = useState(() => typed.get(pack.id) ?? fresh());
  const say = (said: Partial<Saying>) => {
    setSaying((before) => {
      const after = { ...before, ...said };
      typed.set(pack.id, after);
      return after;
    });
  };
  const chosen = (id: string, usual: boolean) => saying.files?.includes(id) ?? usual;
  const after = async (says: string) => {
    setProblem(null);
    tell(says);
    await client.invalidateQueries({ queryKey: ["issue", pack.id] });
  };
  const refused = (error: Error) => {
    if (error instanceof Refusal) setProblem(error.problem);
    else if (error.name === "AbortError") {
      // It may have been kept while the stop was on its way: what is there says so.
      void after("Stopped: what went out is under Issued before");
    }
  };
  const path = { pack: pack.id };
  const issuing = useMutation({
    mutationFn: (of: IssuePage) => {
      const controller = new AbortController();
      stopping.current = controller;
      setProblem(null);
      setProgress({ done: 0, total: 1, says: "the checks" });
      return issueEdition(
        pack.id,
        {
          revision: of.revision,
          number: of.number,
          prepared_by: saying.by,
          reviewed_by: of.reviewed_by || saying.reviewed,
          recipients: saying.to,
          state: saying.state,
          files: of.choices.filter(({ id, usual }) => chosen(id, usual)).map(({ id }) => id),
          reasons: saying.reasons,
        },
        controller.signal,
        setProgress,
      );
    },
    onSettled: () => setProgress(null),
    onSuccess: async (issued) => {
      if (saying.by && !author()) setAuthor(saying.by);
      say({ reasons: {} });
      await after(`Issued as number ${issued.number}, to ${issued.recipients}`);
    },
    onError: refused,
  });
  const withdrawing = useMutation({
    mutationFn: ({ number, why }: { number: number; why: string }) =>
      taken(
        api.POST("/api/packs/{pack}/issues/{number}/withdraw", {
          params: { path: { ...path, number } },
          body: { why },
        }),
      ),
    onSuccess: (of) => after(`Issue ${of.number} is withdrawn`),
    onError: refused,
  });
  return {
    page,
    error: query.error,
    saying,
    say,
    chosen,
    issue: () => {
      if (page && !issuing.isPending) issuing.mutate(page);
    },
    stop: () => stopping.current?.abort(),
    progress,
    withdraw: (number, why) => withdrawing.mutate({ number, why }),
    busy: issuing.isPending || withdrawing.isPending,
  };
}
