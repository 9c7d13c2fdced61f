import { useMemo } from "react";

import type { DashboardView, ItemView } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { showItem } from "./showItem";

interface Asked {
  view: DashboardView | undefined;
  item: ItemView | undefined;
  place: () => void;
  edit: (item: string) => void;
}

/** What can be done on the screen of places. */
export function usePlacesActions({ view, item, place, edit }: Asked): Action[] {
  const { pack } = usePack();
  const { act, keep, go } = usePackControls();
  return useMemo(() => {
    const none = !item;
    const findings = view?.findings ?? [];
    const first = findings.find((each) => each.item === item?.id) ?? findings[0];
    const way = first?.agrees.ways[0];
    const visit = (by: number) => {
      const items = [...new Set(findings.map((each) => each.item))];
      const at = items.indexOf(item?.id ?? "");
      const next = items[(at + by + items.length) % Math.max(items.length, 1)];
      if (!next) return;
      go({ item: next });
      showItem(next);
    };
    const command = (name: "earlier" | "later" | "narrower" | "wider") => () => {
      const change = item?.commands[name];
      if (!item || !change) return;
      keep(change, () => showItem(item.id));
    };
    return [
      { name: "Next figure that does not agree", key: "n", off: findings.length === 0, run: () => visit(1) },
      {
        name: "Previous one that does not agree",
        key: "p",
        off: findings.length === 0,
        run: () => visit(-1),
      },
      {
        name: way ? `${way.label}: ${first.label}` : "Make it agree",
        key: "l",
        off: !way || way.change.kind === "accept_nudge",
        run: () => {
          if (way) act(way.change);
        },
      },
      { name: "Move the item earlier", key: "<", off: none, run: command("earlier") },
      { name: "Move the item later", key: ">", off: none, run: command("later") },
      { name: "Make the item narrower", key: "[", off: none, run: command("narrower") },
      { name: "Make the item wider", key: "]", off: none, run: command("wider") },
      {
        name: "Edit the selected passage",
        key: "w",
        off: item?.kind !== "passage",
        run: () => {
          if (item) edit(item.id);
        },
      },
      {
        name: "Remove the item",
        key: "x",
        off: none,
        run: () => {
          if (item) act(item.commands.remove);
        },
      },
      { name: "Place a figure", key: "a", button: "Place a figure", main: true, off: !view, run: place },
      { name: "To the page", key: "t", run: () => go({ screen: "page" }) },
      ...pack.dashboards.map(({ id, name, edition }) => ({
        name: `Dashboard ${name}`,
        run: () => {
          const own = pack.code;
          go({ pack: edition === "own" ? own : `${own}@${edition}`, dashboard: id, item: null });
        },
      })),
      { name: "Undo", key: "u", run: () => act("undo") },
      { name: "Redo", key: "U", run: () => act("redo") },
    ];
    // The openers only set a state.
    // eslint-disable-next-line react-hooks/exhaustive-deps
  }, [act, go, item, keep, pack.dashboards, pack.id, view]);
}
