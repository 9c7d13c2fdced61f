import { useQuery, useQueryClient } from "@tanstack/react-query";
import { lazy, Suspense, useCallback, useState } from "react";

import type { PackView, Problem } from "../api/client";
import { Refusal, takePack } from "../api/client";
import { packQuery, packsQuery } from "../api/queries";
import { Desk } from "../desk/Desk";
import { OpenPackProvider } from "../pack/OpenPack";
import { Together } from "../review/Together";
import { Button } from "../ui/Button";
import { Notice } from "../words/Notice";
import { useAddress } from "./useAddress";

// The page and its margin come at once; every other screen when it is first opened.
const Beside = lazy(() => import("../beside/Beside").then((made) => ({ default: made.Beside })));
const Documents = lazy(() => import("../documents/Documents").then((made) => ({ default: made.Documents })));
const Figures = lazy(() => import("../figures/Figures").then((made) => ({ default: made.Figures })));
const Footing = lazy(() => import("../footing/Footing").then((made) => ({ default: made.Footing })));
const Group = lazy(() => import("../group/Group").then((made) => ({ default: made.Group })));
const History = lazy(() => import("../history/History").then((made) => ({ default: made.History })));
const Issue = lazy(() => import("../issue/Issue").then((made) => ({ default: made.Issue })));
const Places = lazy(() => import("../places/Places").then((made) => ({ default: made.Places })));
const PutAway = lazy(() => import("../spine/PutAway").then((made) => ({ default: made.PutAway })));
const Rulebook = lazy(() => import("../rulebook/Rulebook").then((made) => ({ default: made.Rulebook })));

/** Finds the pack and statement to open, or teaches the next step when there is none. */
export function Opening() {
  const [address, go] = useAddress();
  const client = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const packs = useQuery(packsQuery);
  const chosen = address.pack ?? packs.data?.[0]?.id ?? null;
  const pack = useQuery({ ...packQuery(chosen ?? ""), enabled: chosen !== null });
  const statement =
    pack.data?.statements.find((each) => each.id === address.statement) ?? pack.data?.statements[0];

  // It stays the same while packs change: what can be done with them hangs on it.
  const take = useCallback(
    async (file: File): Promise<void> => {
      try {
        const taken = await takePack(file);
        setProblem(null);
        client.setQueryData(packQuery(taken.id).queryKey, taken);
        await client.invalidateQueries({ queryKey: packsQuery.queryKey });
        go({ pack: taken.id, statement: taken.statements[0]?.id ?? null, place: null });
      } catch (error) {
        if (!(error instanceof Refusal)) throw error;
        setProblem(error.problem);
      }
    },
    [client, go],
  );
  const onTake = useCallback((file: File) => void take(file), [take]);

  const error = packs.error ?? pack.error;
  const onIntake = useCallback((intake: string) => go({ intake }), [go]);
  const onBack = useCallback(() => go({ screen: "page" }), [go]);
  const onKept = useCallback(
    (kept: PackView) => {
      client.setQueryData(packQuery(kept.id).queryKey, kept);
      void client.invalidateQueries({ queryKey: packsQuery.queryKey });
      const statement = kept.statements[0]?.id ?? null;
      go({ screen: "page", pack: kept.id, statement, place: null, intake: null });
    },
    [client, go],
  );
  const figures = (
    <Suspense fallback={<Waiting />}>
      <Figures
        pack={pack.data ?? null}
        intake={address.intake}
        onIntake={onIntake}
        onBack={pack.data ? onBack : null}
        onKept={onKept}
      />
    </Suspense>
  );
  if (address.screen === "figures" && packs.data?.length === 0) return figures;
  if (chosen !== null && pack.data && statement) {
    return (
      <OpenPackProvider
        key={chosen}
        opened={{
          pack: pack.data,
          packs: packs.data ?? [],
          statement: statement.id,
          address,
          go,
          onTake,
        }}
        problem={problem}
        onProblem={setProblem}
      >
        <Together />
        {address.screen === "figures" ? figures : null}
        <Suspense fallback={<Waiting />}>
          {address.screen === "rulebook" ? <Rulebook /> : null}
          {address.screen === "footing" ? <Footing /> : null}
          {address.screen === "places" ? <Places /> : null}
          {address.screen === "documents" ? <Documents /> : null}
          {address.screen === "group" ? <Group /> : null}
          {address.screen === "issue" ? <Issue key={chosen} /> : null}
          {address.screen === "beside" ? <Beside /> : null}
          {address.screen === "history" ? <History /> : null}
        </Suspense>
        {address.screen === "page" ? <Desk key={statement.id} /> : null}
      </OpenPackProvider>
    );
  }
  return (
    <main className="mx-auto max-w-md space-y-4 p-10">
      <h1 className="text-xl font-semibold">Humble Sum</h1>
      {error instanceof Refusal ? (
        <Notice problem={error.problem} onClose={() => go({ pack: null, statement: null, place: null })} />
      ) : null}
      {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
      {packs.isPending || pack.isLoading ? <p role="status">Opening…</p> : null}
      <Suspense fallback={null}>{packs.data?.length === 0 ? <PutAway /> : null}</Suspense>
      {packs.data?.length === 0 ? (
        <p>
          <Button main onClick={() => go({ screen: "figures" })}>
            Take in figures
          </Button>
        </p>
      ) : null}
      {packs.data?.length === 0 ? (
        <label className="block">
          There is no pack here yet. Take in figures from a workbook or a CSV, or choose a pack file.
          <input
            type="file"
            accept=".json,application/json"
            className="mt-3 block file:mr-3 file:cursor-pointer file:rounded-md file:border-0 file:bg-teal file:px-3 file:py-1.5 file:font-semibold file:text-white"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) onTake(file);
            }}
          />
        </label>
      ) : null}
    </main>
  );
}

function Waiting() {
  return (
    <p role="status" className="p-10">
      Opening…
    </p>
  );
}
