import { Command } from "cmdk";
import { useDeferredValue, useState } from "react";

import type { Change, DashboardView } from "../api/client";
import { useFound } from "../api/queries";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Sheet } from "../ui/Sheet";
import { hasEveryWord, ITEM } from "../ui/found";
import { showItem } from "./showItem";
import { placeItem } from "../pack/formCommands";

type Sort = "tile" | "chart" | "passage";
const SORTS: readonly [Sort, string][] = [
  ["tile", "on a tile"],
  ["chart", "as a chart of its line"],
  ["passage", "in a new passage"],
];

/** Chooses a figure by its name, and how it is placed. */
export function PlaceFigure({ view, onClose }: { view: DashboardView; onClose: () => void }) {
  const { where, pack } = usePack();
  const { keep, go } = usePackControls();
  const [typed, setTyped] = useState("");
  const [sort, setSort] = useState<Sort>("tile");
  const { data } = useFound(where, pack.revision, useDeferredValue(typed));
  // What was found for fewer letters is not what Enter should take.
  const found = data?.filter(({ name }) => hasEveryWord(name, typed));
  function put(statement: string, line: string, column: string, label: string) {
    const id = fresh(view, line);
    const item = made(sort, { id, label }, [statement, line, column]);
    keep(placeItem(view.id, item), () => {
      onClose();
      go({ item: id });
      showItem(id);
    });
  }
  return (
    <Sheet
      open
      onClose={onClose}
      title="Place a figure"
      says={`On ${view.name}, for the ${view.edition_name} edition.`}
    >
      <fieldset className="mb-2 flex flex-wrap gap-4">
        <legend className="sr-only">How it is placed</legend>
        {SORTS.map(([value, said]) => (
          <label key={value} className="flex items-center gap-1.5">
            <input
              type="radio"
              name="sort"
              className="accent-teal"
              checked={sort === value}
              onChange={() => setSort(value)}
            />
            {said}
          </label>
        ))}
      </fieldset>
      <Command label="Figures" shouldFilter={false}>
        <Command.Input
          placeholder="Type part of a figure’s name"
          className="mb-2 w-full border-b border-teal bg-paper px-2 py-1"
          value={typed}
          onValueChange={setTyped}
        />
        {found?.length === 0 ? <p className="py-2">No figure has that name. Try fewer letters.</p> : null}
        <Command.List className="max-h-[45vh] overflow-y-auto" tabIndex={0}>
          {(found ?? []).map(({ statement, line, column, name, label, printed }) => (
            <Command.Item
              key={`${statement}:${line}:${column}`}
              value={`${statement}:${line}:${column}`}
              className={ITEM}
              onSelect={() => put(statement, line, column, label)}
            >
              {name}
              <span className="font-serif">{printed}</span>
            </Command.Item>
          ))}
        </Command.List>
      </Command>
    </Sheet>
  );
}

type Placed = Extract<Change, { kind: "place_item" }>["item"];

/** A new item that shows a figure, or draws its line. */
function made(sort: Sort, named: { id: string; label: string }, figure: [string, string, string]): Placed {
  const [statement, line, column] = figure;
  if (sort === "chart") {
    const of = { statement, lines: [line], columns: [column], clauses: {} };
    return { kind: "chart", ...named, width: 6, style: "bars", ...of };
  }
  if (sort === "passage") {
    return { kind: "passage", ...named, width: 12, text: `${named.label}: {${figure.join(":")}}.`, over: [] };
  }
  const shows = {
    figure,
    measure: "figure",
    columns: [],
    printed: false,
    clauses: {},
    accepted: "",
  } as const;
  return { kind: "tile", ...named, width: 4, shows: { ...shows, columns: [] }, against: "", trail: [] };
}

/** An id that no item of the dashboard has. */
function fresh(view: DashboardView, from: string): string {
  const taken = new Set(view.items.map((each) => each.id));
  let id = from;
  for (let number = 2; taken.has(id); number += 1) id = `${from}-${number}`;
  return id;
}
