import { useEffect, useState } from "react";

import { useFound } from "../api/queries";
import { usePack } from "../pack/PackInHand";
import { hasEveryWord } from "../ui/found";

interface Props {
  typed: string;
  /** The lines or columns that the passage is repeated over, and the mark for the name of each. */
  over: string[];
  each: string | null;
  onPick: (source: string, text: string) => void;
  onClose: () => void;
}

const MOST = 8;
const NAME_OF_EACH = "The name of each it is repeated over";

/** Figures whose names have the words typed behind an @: arrows choose, Enter places, Escape leaves. */
export function Mention({ typed, over, each, onPick, onClose }: Props) {
  const { where, pack } = usePack();
  const { data } = useFound(where, pack.revision, typed);
  const star = (id: string) => (over.includes(id) ? "*" : id);
  const figures = (data ?? []).map((figure) => ({
    name: figure.name,
    printed: figure.printed,
    source: `{${figure.statement}:${star(figure.line)}:${star(figure.column)}}`,
  }));
  const named = each ? [{ name: NAME_OF_EACH, printed: "", source: each }] : [];
  const found = [...named, ...figures].filter(({ name }) => hasEveryWord(name, typed)).slice(0, MOST);
  const [at, setAt] = useState(0);
  const place = Math.min(at, Math.max(found.length - 1, 0));
  useEffect(() => {
    // Before the editor: its own Enter would break the line.
    function onKeyDown(event: KeyboardEvent) {
      const chosen = found[place];
      if (event.key === "Escape") onClose();
      else if (event.key === "ArrowDown") setAt(Math.min(place + 1, found.length - 1));
      else if (event.key === "ArrowUp") setAt(Math.max(place - 1, 0));
      else if (event.key === "Enter" && chosen && !event.ctrlKey) {
        onPick(chosen.source, chosen.printed || "…");
      } else return;
      event.preventDefault();
      event.stopPropagation();
    }
    window.addEventListener("keydown", onKeyDown, { capture: true });
    return () => window.removeEventListener("keydown", onKeyDown, { capture: true });
  });
  if (found.length === 0) return <p className="text-soft">No figure has that name.</p>;
  return (
    <div role="listbox" aria-label="Figures" className="border border-ink bg-paper p-1">
      {found.map((figure, number) => (
        <div
          key={`${figure.source} ${figure.name}`}
          role="option"
          tabIndex={-1}
          aria-selected={number === place}
          className="flex cursor-pointer justify-between gap-4 rounded-sm px-2 py-0.5 aria-selected:bg-teal aria-selected:text-white"
          onMouseDown={(event) => {
            event.preventDefault();
            onPick(figure.source, figure.printed || "…");
          }}
        >
          {figure.name}
          <span className="font-serif">{figure.printed}</span>
        </div>
      ))}
    </div>
  );
}
