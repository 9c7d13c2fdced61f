import type { IntakeView, Progress } from "../api/client";
import { api, taken, takeSource } from "../api/client";
import type { Given } from "./pickedFile";
import { again } from "./pickedFile";

/** One source to be taken again: from a file that was chosen for it, or with another query. */
export interface Again {
  name: string;
  from?: Given;
  query?: string;
}

/**
 * What was taken in as its sources are now, all of them or one, with what is read otherwise; and the
 * names of those whose files cannot be read again.
 */
export async function takenAgain(
  intake: IntakeView,
  given: ReadonlyMap<string, Given>,
  only: Again | undefined,
  stop: AbortSignal,
  onProgress: (progress: Progress) => void,
): Promise<{ read: IntakeView; lost: string[] }> {
  const lost: string[] = [];
  const changed: string[] = [];
  let read: IntakeView = { ...intake, changed: null };
  const allowed = await taken(api.GET("/api/intakes/databases"));
  const databases = new Set(allowed.map(({ name }) => name));
  for (const { name, query } of intake.sources) {
    if (only && only.name !== name) continue;
    const file = await again(given.get(name));
    if (!file && databases.has(name)) {
      const body = { query: (only?.query ?? "") || (query ?? ""), into: intake.id, again: true };
      read = await taken(api.POST("/api/intakes/databases/{name}", { params: { path: { name } }, body }));
      changed.push(...(read.changed ?? []));
      read = { ...read, changed: [...changed] };
      continue;
    }
    if (!file) {
      lost.push(name);
      continue;
    }
    onProgress({ done: 0, total: 1, says: name });
    const asked = only?.query ?? query ?? "";
    const how = { name, into: intake.id, again: "true", query: asked } as const;
    read = await takeSource(file, how, stop, onProgress);
    changed.push(...(read.changed ?? []));
    read = { ...read, changed: [...changed] };
  }
  return { read, lost };
}
