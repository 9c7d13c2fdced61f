import { Command } from "cmdk";

import type { PackView, ProofView } from "../api/client";
import type { Place } from "../api/queries";
import { Sheet } from "../ui/Sheet";
import { GROUP, ITEM } from "../ui/found";

/** Something that can be done by finding its name. */
export interface Deedable {
  name: string;
  key: string;
  run: () => void;
}

interface Props {
  open: boolean;
  onClose: () => void;
  pack: PackView;
  proof: ProofView;
  deeds: Deedable[];
  onPlace: (place: Place) => void;
  onStatement: (id: string) => void;
}

/** What is found has every word typed, in any order; nothing is guessed at. */
function hasEveryWord(name: string, typed: string): number {
  const words = typed.toLowerCase().split(/\s+/);
  return words.every((word) => name.toLowerCase().includes(word)) ? 1 : 0;
}

/** Find any figure, statement or deed by typing part of its name. */
export function Find({ open, onClose, pack, proof, deeds, onPlace, onStatement }: Props) {
  const then = (run: () => void) => () => {
    onClose();
    run();
  };
  return (
    <Sheet open={open} onClose={onClose} title="Find" says="A figure, a statement, or something to do.">
      <Command label="Find" filter={hasEveryWord} className="[&_[cmdk-empty]]:py-2">
        <Command.Input
          placeholder="Type part of a name"
          className="mb-2 w-full border-b border-teal bg-paper px-2 py-1"
        />
        <Command.List className="max-h-[50vh] overflow-y-auto" tabIndex={0}>
          <Command.Empty>Nothing here has that name. Try fewer letters.</Command.Empty>
          <Command.Group heading="Figures" className={GROUP}>
            {proof.lines.flatMap((line) =>
              line.figures.map((figure) => {
                const column = proof.columns.find((each) => each.id === figure.column)?.label ?? "";
                const name = `${line.label}, ${column}`;
                return (
                  <Command.Item
                    key={`${line.id} ${figure.column}`}
                    value={`${name} ${line.id} ${figure.column}`}
                    className={ITEM}
                    onSelect={then(() => onPlace({ line: line.id, column: figure.column }))}
                  >
                    {name}
                    <span className="font-serif">{figure.text}</span>
                  </Command.Item>
                );
              }),
            )}
          </Command.Group>
          <Command.Group heading="Statements" className={GROUP}>
            {pack.statements.map((each) => (
              <Command.Item
                key={each.id}
                value={`statement ${each.title}`}
                className={ITEM}
                onSelect={then(() => onStatement(each.id))}
              >
                {each.title}
              </Command.Item>
            ))}
          </Command.Group>
          <Command.Group heading="To do" className={GROUP}>
            {deeds.map((deed) => (
              <Command.Item key={deed.name} value={deed.name} className={ITEM} onSelect={then(deed.run)}>
                {deed.name}
                <span>{deed.key}</span>
              </Command.Item>
            ))}
          </Command.Group>
        </Command.List>
      </Command>
    </Sheet>
  );
}
