import { Command } from "cmdk";
import { useDeferredValue, useState } from "react";

import type { TiedView } from "../api/client";
import { useFigure, useTieable } from "../api/queries";
import { useSelection } from "../pack/SelectedFigure";
import type { FigureRef } from "../pack/OpenPack";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { GROUP, ITEM } from "../ui/found";
import { tie } from "../pack/formCommands";

const nameOf = ({ statement, line, column }: TiedView) => `${statement}:${line}:${column}`;

/** Asks which figure one has to print the same as: chosen on the page, or found by its name. */
export function TieChooser({ tying }: { tying: FigureRef }) {
  const [owner, line, column] = tying;
  const { pack, statement, where } = usePack();
  const { act, setTying } = usePackControls();
  const { place, proof } = useSelection();
  const place0 = { line, column };
  const { data: figure } = useFigure({ ...where, statement: owner }, place0, pack.revision);
  const selected = proof.lines.find((each) => each.id === place?.line);
  const head = proof.columns.find((each) => each.id === place?.column);
  const same = statement === owner && place?.line === line && place.column === column;
  const choose = () => {
    if (!place) return;
    setTying(null);
    act(tie(tying, [statement, place.line, place.column]));
  };
  return (
    <section aria-label="Tie to a figure" className="rounded-md border border-teal bg-paper p-3">
      <h2 className="font-semibold">Tie {figure?.label ?? "the figure"} to</h2>
      <p className="text-soft">
        Tied figures are the same amount, so footing makes them print the same. Choose a figure on any
        statement, and press Enter.
      </p>
      <div className="my-2 flex flex-wrap gap-1.5">
        <Button main className="px-2! py-0.5! whitespace-normal!" disabled={same} onClick={choose}>
          {same ? "No figure chosen yet" : `${selected?.label ?? ""}, ${head?.label ?? ""}`}
        </Button>
        <Button shortcut="Esc" className="px-2! py-0.5!" onClick={() => setTying(null)}>
          Cancel
        </Button>
      </div>
      <ByName tying={tying} />
    </section>
  );
}

/** The other way: figures of the same amount, and those whose names have what is typed. */
function ByName({ tying }: { tying: FigureRef }) {
  const [owner, line, column] = tying;
  const { pack, where } = usePack();
  const { act, setTying } = usePackControls();
  const [typed, setTyped] = useState("");
  const [picked, setPicked] = useState("");
  const place = { line, column };
  const there = { ...where, statement: owner };
  const { data: found } = useTieable(there, place, pack.revision, useDeferredValue(typed));
  const names = (found ?? []).map(nameOf);
  // What comes next is chosen at once, so that Enter takes the first.
  const chosen = names.includes(picked) ? picked : (names[0] ?? "");
  const group = (heading: string, figures: TiedView[]) =>
    figures.length > 0 ? (
      <Command.Group heading={heading} className={GROUP}>
        {figures.map((each) => (
          <Command.Item
            key={nameOf(each)}
            value={nameOf(each)}
            className={ITEM}
            onSelect={() => {
              setTying(null);
              if (each.tie) act(each.tie);
            }}
          >
            {each.name}
            <span className="font-serif">{each.printed}</span>
          </Command.Item>
        ))}
      </Command.Group>
    ) : null;
  return (
    <Command label="A figure to tie to" shouldFilter={false} value={chosen} onValueChange={setPicked}>
      <Command.Input
        placeholder="or type part of its name"
        className="mb-2 w-full border-b border-teal bg-paper px-2 py-1"
        value={typed}
        onValueChange={setTyped}
      />
      {found?.length === 0 ? (
        <p className="px-2 py-1">
          {typed.trim()
            ? "No other figure has that name. Try fewer letters."
            : "No other figure has this amount."}
        </p>
      ) : null}
      <Command.List className="max-h-56 overflow-y-auto" tabIndex={0}>
        {group(
          "Of the same amount",
          (found ?? []).filter((each) => each.same),
        )}
        {group(
          "Of other amounts: tied, they would be a source break",
          (found ?? []).filter((each) => !each.same),
        )}
      </Command.List>
    </Command>
  );
}
