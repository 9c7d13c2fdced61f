import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useEffect, useMemo, useRef } from "react";

import { api, taken } from "../api/client";
import { keys } from "../api/keys";
import { placeKey } from "../api/queries";
import { usePack, usePackControls } from "../pack/OpenPack";

const EVERY = 3_000; // milliseconds
const WINDOW = windowName();

/** What only this window is called, also once it is loaded again. */
function windowName(): string {
  const kept = sessionStorage.getItem("humble-sum-window");
  const name = kept ?? Math.random().toString(36).slice(2, 14);
  sessionStorage.setItem("humble-sum-window", name);
  return name;
}

/** How the pack stands at this moment: asked every few seconds, while the window is in view. */
function useNow() {
  const { pack, statement, address } = usePack();
  const { place, screen } = address;
  const at = screen === "page" ? { statement, line: place?.line ?? "", column: place?.column ?? "" } : {};
  return useQuery({
    queryKey: keys.now(pack.id),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/now", {
          params: { path: { pack: pack.id }, query: { ...at, window: WINDOW } },
        }),
      ),
    refetchInterval: EVERY,
    retry: false,
    staleTime: 0,
  }).data;
}

/** Brings what others changed to the desk, and says whose change it is. */
export function Together() {
  const { pack, busy } = usePack();
  const { say } = usePackControls();
  const client = useQueryClient();
  const now = useNow();
  const seen = useRef(pack.revision);
  useEffect(() => {
    seen.current = Math.max(seen.current, pack.revision);
    if (!now || busy || now.revision <= seen.current) return;
    seen.current = now.revision;
    for (const queryKey of [keys.pack(pack.id), keys.proofs(pack.id), keys.histories(pack.id)]) {
      void client.invalidateQueries({ queryKey });
    }
    say(
      now.last ? `${now.last.author || "Somebody"}: ${now.last.summary}` : "The pack was changed elsewhere",
    );
  }, [busy, client, now, pack.id, pack.revision, say]);
  return null;
}

/** Who else is at the pack, by name, each once. */
export function useOthers(): string[] {
  const now = useNow();
  return useMemo(() => [...new Set(now?.here.map(({ name }) => name || "Somebody else"))], [now]);
}

/** Who has which figure of a statement in hand in another window. */
export function useHands(statement: string): Map<string, string> {
  const now = useNow();
  return useMemo(
    () =>
      new Map(
        now?.here
          .filter((each) => each.statement === statement && each.line && each.column)
          .map((each) => [placeKey(each), each.name || "Somebody else"]),
      ),
    [now, statement],
  );
}
