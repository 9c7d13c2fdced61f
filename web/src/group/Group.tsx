import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { groupQuery } from "../api/queries";
import { WorkScreen } from "../frame/WorkScreen";
import { usePack, usePackControls } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { Button } from "../ui/Button";
import { GroupMargin } from "./GroupMargin";
import { GroupTable } from "./GroupTable";
import { arranged, groupLineId, openIn, ORDERS, type Order } from "./groupLine";
import { useFootMany } from "./useFootMany";

/** All packs in use, a row each: what is open, who signed, what went out; and the same act on many. */
export function Group() {
  const { pack } = usePack();
  const { go, say } = usePackControls();
  const edition = pack.edition;
  const { data } = useQuery(groupQuery(edition));
  const [hand, setHand] = useState<string | null>(null);
  const [typed, setTyped] = useState("");
  const [only, setOnly] = useState(false);
  const [order, setOrder] = useState<Order>(ORDERS[0]);
  const { run, foot, undo, stop } = useFootMany(edition);
  const lines = arranged(data?.lines ?? [], typed, only, order);
  const toFoot = lines.filter(({ standing }) => (standing?.gaps ?? 0) > 0);
  const selected = lines.find(({ id }) => id === hand) ?? lines[0];
  const visit = (id: string) => {
    setHand(id);
    document.getElementById(groupLineId(id))?.focus();
  };
  const step = (by: 1 | -1) => {
    const open = lines.filter((line) => openIn(line) > 0);
    const at = open.findIndex(({ id }) => id === selected?.id);
    const next = open[at < 0 ? 0 : (at + by + open.length) % open.length];
    if (next) visit(next.id);
    else say("Nothing is open in any of these packs");
  };
  const openPack = (id: string) =>
    go({ screen: "page", pack: edition === "own" ? id : `${id}@${edition}`, statement: null, place: null });
  const actions: Action[] = [
    { name: "Next pack with something open", key: "n", button: "Next open", run: () => step(1) },
    { name: "Previous pack with something open", key: "p", run: () => step(-1) },
    {
      name: "Open the pack in hand",
      key: "o",
      button: "Open",
      off: !selected,
      run: () => {
        if (selected) openPack(selected.id);
      },
    },
    {
      name: "Foot all packs shown that have gaps",
      key: "f",
      button: footing(toFoot.length),
      main: true,
      off: toFoot.length === 0 || run?.running === true,
      run: () => void foot(toFoot),
    },
  ];
  const shown = data?.lines.length ?? 0;
  const says = data
    ? `${shown === 1 ? "1 pack" : `${shown} packs`}, ${data.open} with something open${data.waiting > 0 ? `, ${data.waiting} being looked at` : ""}`
    : "Opening…";
  return (
    <WorkScreen
      title="Packs"
      says={says}
      actions={actions}
      margin={selected ? <GroupMargin line={selected} onOpen={openPack} /> : null}
      footer={
        run ? (
          <>
            <p role="status" className="min-w-0 flex-1 truncate">
              {run.does}: {run.done} of {run.total}
              {run.failed.length > 0 ? `, ${run.failed.length} refused: ${run.failed[0]?.why ?? ""}` : ""}
            </p>
            <progress
              className="w-40 accent-teal"
              aria-label={run.does}
              max={Math.max(1, run.total)}
              value={run.done}
            />
            {run.running ? <Button onClick={stop}>Stop</Button> : null}
            {!run.running && run.changed.length > 0 ? (
              <Button onClick={() => void undo(run)}>
                Undo all {run.changed.length === 1 ? "of it" : run.changed.length}
              </Button>
            ) : null}
          </>
        ) : (
          "Every pack in use, as its readers would get it now."
        )
      }
    >
      <p className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <label className="flex items-center gap-2">
          Find
          <input
            type="search"
            value={typed}
            className="border-b border-ink bg-paper px-2 py-0.5"
            onChange={(event) => setTyped(event.target.value)}
          />
        </label>
        <label className="flex items-center gap-1.5">
          <input
            type="checkbox"
            className="accent-teal"
            checked={only}
            onChange={(event) => setOnly(event.target.checked)}
          />
          only what has something open
        </label>
        <label className="flex items-center gap-1.5">
          in order
          <select
            value={order}
            className="border-b border-ink bg-paper px-1 py-0.5"
            onChange={(event) => setOrder(ORDERS.find((each) => each === event.target.value) ?? ORDERS[0])}
          >
            {ORDERS.map((each) => (
              <option key={each}>{each}</option>
            ))}
          </select>
        </label>
      </p>
      {data ? (
        <GroupTable lines={lines} hand={selected?.id ?? null} onHand={setHand} onOpen={openPack} />
      ) : (
        <p role="status">Opening…</p>
      )}
      {data && lines.length === 0 ? <p>No pack is like that.</p> : null}
    </WorkScreen>
  );
}

function footing(packs: number): string {
  if (packs === 0) return "Foot all";
  return packs === 1 ? "Foot 1 pack" : `Foot ${packs} packs`;
}
