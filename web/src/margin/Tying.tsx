import { Command } from "cmdk";
import { useDeferredValue, useState } from "react";

import type { TiedView } from "../api/client";
import type { Deed, Place, Where } from "../api/queries";
import { useFigure, useTieable } from "../api/queries";
import { Sheet } from "../ui/Sheet";
import { GROUP, ITEM } from "../ui/found";

interface Props {
  where: Where;
  place: Place;
  revision: number;
  act: (deed: Deed) => void;
  onClose: () => void;
}

const nameOf = ({ statement, line, column }: TiedView) => `${statement} ${line} ${column}`;

/** Asks which figure the one in hand has to print the same as. */
export function Tying({ where, place, revision, act, onClose }: Props) {
  const [typed, setTyped] = useState("");
  const { data: figure } = useFigure(where, place, revision);
  const { data: found } = useTieable(where, place, revision, useDeferredValue(typed));
  const [picked, setPicked] = useState("");
  const names = (found ?? []).map(nameOf);
  // What comes next is chosen at once, so that Enter takes the first.
  const chosen = names.includes(picked) ? picked : (names[0] ?? "");
  const choose = ({ statement, line, column }: TiedView) => {
    onClose();
    act({ kind: "tie", statement: where.statement, ...place, to: [statement, line, column] });
  };
  const group = (heading: string, figures: TiedView[]) =>
    figures.length > 0 ? (
      <Command.Group heading={heading} className={GROUP}>
        {figures.map((each) => (
          <Command.Item
            key={nameOf(each)}
            value={nameOf(each)}
            className={ITEM}
            onSelect={() => choose(each)}
          >
            {each.name}
            <span className="font-serif">{each.printed}</span>
          </Command.Item>
        ))}
      </Command.Group>
    ) : null;
  return (
    <Sheet
      open
      onClose={onClose}
      title={`Tie ${figure?.label ?? "the figure"} to`}
      says="They are one and the same, so a plan makes them print alike."
    >
      <Command label="A figure to tie to" shouldFilter={false} value={chosen} onValueChange={setPicked}>
        <Command.Input
          placeholder="Type part of a name"
          className="mb-2 w-full border-b border-teal bg-paper px-2 py-1"
          value={typed}
          onValueChange={setTyped}
        />
        <Command.List className="max-h-[50vh] overflow-y-auto" tabIndex={0}>
          {found?.length === 0 ? (
            <p className="px-2 py-1">
              {typed.trim()
                ? "No other figure has that name. Try fewer letters."
                : "No other figure has this amount. Type the name of one to tie it to all the same."}
            </p>
          ) : null}
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
    </Sheet>
  );
}
