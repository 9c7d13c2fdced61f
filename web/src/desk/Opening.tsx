import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { Problem } from "../api/client";
import { Refusal, takePack } from "../api/client";
import { packQuery, packsQuery } from "../api/queries";
import type { Trial } from "../api/trials";
import { Figures } from "../figures/Figures";
import { Footing } from "../footing/Footing";
import { Rulebook } from "../rulebook/Rulebook";
import { Button } from "../ui/Button";
import { Notice } from "../ui/Notice";
import { useAddress } from "./address";
import { Desk } from "./Desk";

/** Finds the pack and statement to open, or teaches the next step when there is none. */
export function Opening() {
  const [address, go] = useAddress();
  const client = useQueryClient();
  const [problem, setProblem] = useState<Problem | null>(null);
  const [trial, setTrial] = useState<Trial | null>(null);
  const [trying, setTrying] = useState(false);
  const packs = useQuery(packsQuery);
  const chosen = address.pack ?? packs.data?.[0]?.id ?? null;
  const pack = useQuery({ ...packQuery(chosen ?? ""), enabled: chosen !== null });
  const statement =
    pack.data?.statements.find((each) => each.id === address.statement) ?? pack.data?.statements[0];

  async function take(file: File): Promise<void> {
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
  }

  const error = packs.error ?? pack.error;
  if (address.screen === "figures") {
    return (
      <Figures
        packs={packs.data ?? []}
        open={chosen}
        onBack={packs.data?.length ? () => go({ screen: "page" }) : null}
        onKept={(kept) => {
          client.setQueryData(packQuery(kept.id).queryKey, kept);
          void client.invalidateQueries({ queryKey: packsQuery.queryKey });
          go({ screen: "page", pack: kept.id, statement: kept.statements[0]?.id ?? null, place: null });
        }}
      />
    );
  }
  if (chosen !== null && pack.data && statement) {
    const work = {
      pack: pack.data,
      statement: statement.id,
      packs: packs.data ?? [],
      go,
      onTake: (file: File) => void take(file),
      trial,
      onTrial: setTrial,
    };
    if (address.screen === "rulebook") return <Rulebook key={chosen} chosen={address.rule} {...work} />;
    if (address.screen === "footing") return <Footing key={chosen} {...work} />;
    return (
      <Desk
        key={`${chosen} ${statement.id}`}
        {...work}
        trying={trying}
        onTrying={setTrying}
        address={address}
        problem={problem}
        onProblem={setProblem}
      />
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
              if (file) void take(file);
            }}
          />
        </label>
      ) : null}
    </main>
  );
}
