import { useQueryClient } from "@tanstack/react-query";
import { useRef, useState } from "react";

import type { GroupLine } from "../api/client";
import { api, Refusal, taken } from "../api/client";

export interface Run {
  does: string;
  done: number;
  total: number;
  running: boolean;
  /** Packs that were changed, with the revision that each has since. */
  changed: { line: GroupLine; revision: number }[];
  failed: { line: GroupLine; why: string }[];
}

/** Foots many packs one after the other, with a way to stop, and takes all of it back as one. */
export function useFootMany(edition: string) {
  const client = useQueryClient();
  const [run, setRun] = useState<Run | null>(null);
  const stop = useRef(false);
  const stopped = () => stop.current;
  const addressOf = (id: string) => (edition === "own" ? id : `${id}@${edition}`);

  const each = async (
    does: string,
    lines: readonly GroupLine[],
    act: (line: GroupLine) => Promise<number | null>,
  ) => {
    stop.current = false;
    const made: Run = { does, done: 0, total: lines.length, running: true, changed: [], failed: [] };
    setRun({ ...made });
    for (const line of lines) {
      if (stopped()) break;
      try {
        const revision = await act(line);
        if (revision !== null) made.changed.push({ line, revision });
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        made.failed.push({ line, why: error.problem.detail });
      }
      made.done += 1;
      setRun({ ...made });
    }
    setRun({ ...made, running: false });
    await client.invalidateQueries({ queryKey: ["group"] });
    await client.invalidateQueries({ queryKey: ["pack"] });
    await client.invalidateQueries({ queryKey: ["taken"] });
  };

  return {
    run,
    stop: () => {
      stop.current = true;
    },
    foot: (lines: readonly GroupLine[]) =>
      each("Footing", lines, async (line) => {
        const statement = line.standing?.statement ?? "";
        const { pack, changed } = await taken(
          api.POST("/api/packs/{pack}/changes", {
            params: { path: { pack: addressOf(line.id) } },
            body: { revision: line.revision, change: { kind: "foot", statement }, page: null },
          }),
        );
        return changed ? pack.revision : null;
      }),
    undo: (last: Run) =>
      each(
        "Taking back",
        last.changed.map(({ line }) => line),
        async (line) => {
          const revision = last.changed.find((each) => each.line.id === line.id)?.revision ?? 0;
          await taken(
            api.POST("/api/packs/{pack}/undo", {
              params: { path: { pack: addressOf(line.id) } },
              body: { revision, statement: line.standing?.statement ?? "" },
            }),
          );
          return null;
        },
      ),
  };
}
