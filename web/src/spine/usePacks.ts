import { useMutation, useQueryClient } from "@tanstack/react-query";

import type { PackName } from "../api/client";
import { api, Refusal, taken } from "../api/client";
import { packOf } from "../api/keys";
import { packQuery, packsQuery } from "../api/queries";
import { usePackControls, usePack } from "../pack/OpenPack";

/** What can be done with the whole pack: copied, put away, taken out. */
export function usePacks() {
  const { pack, packs } = usePack();
  const { go, setProblem } = usePackControls();
  const client = useQueryClient();
  const own = packOf(pack.id);
  const params = { path: { pack: own } };
  const onError = (error: Error) => {
    if (error instanceof Refusal) setProblem(error.problem);
    else throw error;
  };
  const copy = useMutation({
    mutationFn: () => taken(api.POST("/api/packs/{pack}/copies", { params, body: {} })),
    onSuccess: async (made) => {
      client.setQueryData(packQuery(made.id).queryKey, made);
      await client.invalidateQueries({ queryKey: packsQuery.queryKey });
      go({ pack: made.id, statement: made.statements[0]?.id ?? null, place: null });
    },
    onError,
  });
  const put = useMutation({
    mutationFn: (standing: "put_away" | "taken_out") =>
      taken(api.PUT("/api/packs/{pack}/standing", { params, body: { standing } })),
    onSuccess: async (gone: PackName) => {
      await client.invalidateQueries({ queryKey: ["packs"] });
      await client.invalidateQueries({ queryKey: packsQuery.queryKey });
      const next = packs.find((each) => each.id !== gone.id);
      go({ screen: "page", pack: next?.id ?? null, statement: null, place: null });
    },
    onError,
  });
  return {
    copy: () => copy.mutate(),
    putAway: () => put.mutate("put_away"),
    takeOut: () => put.mutate("taken_out"),
  };
}
