import { Command } from "cmdk";
import { useDeferredValue, useState } from "react";

import type { FoundView } from "../api/client";
import { useFound } from "../api/queries";
import { usePack } from "../pack/OpenPack";
import { Sheet } from "../ui/Sheet";
import { hasEveryWord, ITEM } from "../ui/found";

interface Props {
  onFigure: (figure: FoundView) => void;
  onClose: () => void;
}

/** Chooses a figure by part of its name. */
export function ChooseFigure({ onFigure, onClose }: Props) {
  const { pack, where } = usePack();
  const [typed, setTyped] = useState("");
  const { data } = useFound({ ...where, trial: null }, pack.revision, useDeferredValue(typed));
  const found = data?.filter(({ name }) => hasEveryWord(name, typed));
  return (
    <Sheet open onClose={onClose} title="Choose a figure" says="Only its changes are listed.">
      <Command label="Figures" shouldFilter={false}>
        <Command.Input
          placeholder="Type part of a figure’s name"
          className="mb-2 w-full border-b border-teal bg-paper px-2 py-1"
          value={typed}
          onValueChange={setTyped}
        />
        {found?.length === 0 ? <p className="py-2">No figure has that name. Try fewer letters.</p> : null}
        <Command.List className="max-h-[45vh] overflow-y-auto" tabIndex={0}>
          {(found ?? []).map((each) => {
            const id = `${each.statement}:${each.line}:${each.column}`;
            return (
              <Command.Item key={id} value={id} className={ITEM} onSelect={() => onFigure(each)}>
                {each.name}
                <span className="font-serif">{each.printed}</span>
              </Command.Item>
            );
          })}
        </Command.List>
      </Command>
    </Sheet>
  );
}
