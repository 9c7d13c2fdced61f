import { Command } from "cmdk";
import { useDeferredValue, useState } from "react";

import { useFound } from "../api/queries";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { keySaid } from "../pack/actions";
import { showFigure } from "../pack/focus";
import { Sheet } from "../ui/Sheet";
import { GROUP, hasEveryWord, ITEM } from "../ui/found";

interface Props {
  actions: readonly Action[];
  onClose: () => void;
}

/** Find any figure of any statement, a statement, or something to do, by typing part of its name. */
export function Find({ actions, onClose }: Props) {
  const { pack, where } = usePack();
  const { go } = usePackControls();
  const [typed, setTyped] = useState("");
  const { data } = useFound(where, pack.revision, useDeferredValue(typed));
  // What was found for fewer letters is not what Enter should take.
  const figures = data?.filter(({ name }) => hasEveryWord(name, typed));
  const statements = pack.statements.filter(({ title }) => hasEveryWord(`statement ${title}`, typed));
  const matches = actions.filter(({ name, off }) => !off && hasEveryWord(name, typed));
  const then = (run: () => void) => () => {
    onClose();
    run();
  };
  const nothing = figures?.length === 0 && statements.length + matches.length === 0;
  return (
    <Sheet open onClose={onClose} title="Find" says="A figure, a statement, or something to do.">
      <Command label="Find" shouldFilter={false}>
        <Command.Input
          placeholder="Type part of a name"
          className="mb-2 w-full border-b border-teal bg-paper px-2 py-1"
          value={typed}
          onValueChange={setTyped}
        />
        {nothing ? <p className="py-2">Nothing here has that name. Try fewer letters.</p> : null}
        <Command.List className="max-h-[50vh] overflow-y-auto" tabIndex={0}>
          {figures && figures.length > 0 ? (
            <Command.Group heading="Figures" className={GROUP}>
              {figures.map(({ statement, line, column, name, printed }) => (
                <Command.Item
                  key={`${statement}:${line}:${column}`}
                  value={`${statement}:${line}:${column}`}
                  className={ITEM}
                  onSelect={then(() => {
                    go({ screen: "page", statement, place: { line, column } });
                    showFigure({ line, column });
                  })}
                >
                  {name}
                  <span className="font-serif">{printed}</span>
                </Command.Item>
              ))}
            </Command.Group>
          ) : null}
          {statements.length > 0 ? (
            <Command.Group heading="Statements" className={GROUP}>
              {statements.map(({ id, title }) => (
                <Command.Item
                  key={id}
                  value={`statement ${id}`}
                  className={ITEM}
                  onSelect={then(() => go({ screen: "page", statement: id, place: null }))}
                >
                  {title}
                </Command.Item>
              ))}
            </Command.Group>
          ) : null}
          {matches.length > 0 ? (
            <Command.Group heading="To do" className={GROUP}>
              {matches.map(({ name, key, run }) => (
                <Command.Item key={name} value={`do ${name}`} className={ITEM} onSelect={then(run)}>
                  {name}
                  <span>{keySaid(key)}</span>
                </Command.Item>
              ))}
            </Command.Group>
          ) : null}
        </Command.List>
      </Command>
    </Sheet>
  );
}
