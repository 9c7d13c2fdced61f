import { useEffect, useRef, useState } from "react";

import { useMarks } from "../api/places";
import { usePack } from "../pack/OpenPack";
import { hasEveryWord } from "../ui/found";

interface Props {
  dashboard: string;
  passage: string;
  typed: string;
  onPick: (source: string, text: string) => void;
  onClose: () => void;
}

/** Figures, measures and words whose names have what is typed behind an @: arrows choose, Enter places. */
export function FigureSearch({ dashboard, passage, typed, onPick, onClose }: Props) {
  const { pack } = usePack();
  const { data, isFetching } = useMarks(pack.id, pack.revision, dashboard, passage, typed);
  // Those of the words before stay in view until the next come.
  const found = (data ?? []).filter(({ name }) => hasEveryWord(name, typed));
  const [at, setAt] = useState(0);
  const place = Math.min(at, Math.max(found.length - 1, 0));
  // Enter that came before what was typed had been found takes the first of it, and breaks no line.
  const [early, setEarly] = useState(false);
  useEffect(() => {
    const [first] = found;
    if (early && !isFetching && first) onPick(first.source, first.text || "…");
  });
  useEffect(() => {
    // Before the editor: its own Enter would break the line.
    function onKeyDown(event: KeyboardEvent) {
      const chosen = found[place];
      if (event.key === "Escape") onClose();
      else if (event.key === "ArrowDown") setAt(Math.min(place + 1, found.length - 1));
      else if (event.key === "ArrowUp") setAt(Math.max(place - 1, 0));
      else if (event.key === "Enter" && isFetching && !event.ctrlKey) setEarly(true);
      else if (event.key === "Enter" && chosen && !event.ctrlKey) onPick(chosen.source, chosen.text || "…");
      else return;
      event.preventDefault();
      event.stopPropagation();
    }
    window.addEventListener("keydown", onKeyDown, { capture: true });
    return () => window.removeEventListener("keydown", onKeyDown, { capture: true });
  });
  const box = useRef<HTMLDivElement>(null);
  // The text may end at the edge of the screen, and what is offered stands below it.
  useEffect(() => {
    box.current?.scrollIntoView({ block: "nearest" });
  }, [found.length]);
  if (found.length === 0) return <p className="text-soft">Nothing has that name.</p>;
  return (
    <div ref={box} role="listbox" aria-label="Figures" className="border border-ink bg-paper p-1">
      {found.map((mark, number) => (
        <div
          key={mark.source}
          role="option"
          tabIndex={-1}
          aria-selected={number === place}
          className="flex cursor-pointer justify-between gap-4 rounded-sm px-2 py-0.5 aria-selected:bg-teal aria-selected:text-white"
          onMouseDown={(event) => {
            event.preventDefault();
            onPick(mark.source, mark.text || "…");
          }}
        >
          {mark.name}
          <span className="font-serif whitespace-nowrap">{mark.text}</span>
        </div>
      ))}
    </div>
  );
}
