import type { MouseEvent, ReactNode } from "react";
import { useState } from "react";

import { useMaybePack } from "../pack/OpenPack";

const SMALL = "(width < 56rem)"; // as app.css has it

type Pane = "pack" | "work" | "margin";

interface Props {
  /** What the middle is called: the statement, or the screen. */
  work: string;
  /** What the margin is about, in a word. */
  margin: string;
  /** Another place in the program: the middle comes back into view for it. */
  at: string;
  children: ReactNode;
}

/** Spine, work and margin: beside each other where there is room, and one at a time on a small screen. */
export function Panes({ work, margin, at, children }: Props) {
  const [pane, setPane] = useState<Pane>("work");
  const [seen, setSeen] = useState(at);
  const hasPack = useMaybePack() !== null;
  if (seen !== at) {
    setSeen(at);
    setPane("work");
  }
  const panes: readonly { id: Pane; name: string }[] = [
    { id: "pack", name: hasPack ? "Pack" : "Start" },
    { id: "work", name: work },
    { id: "margin", name: margin },
  ];
  // On a small screen a tap on a figure opens its sheet.
  const tapped = (event: MouseEvent<HTMLElement>) => {
    const figure = event.target instanceof Element && event.target.closest("td[role=gridcell]");
    if (figure && window.matchMedia(SMALL).matches) setPane("margin");
  };
  return (
    // Taps are those of the figures inside, which have roles and keys of their own.
    // eslint-disable-next-line jsx-a11y/no-static-element-interactions, jsx-a11y/click-events-have-key-events
    <div
      onClick={tapped}
      data-pane={pane}
      className="desk grid h-full grid-cols-[152px_minmax(0,1fr)_288px] grid-rows-[46px_minmax(0,1fr)_62px] xl:grid-cols-[190px_minmax(0,1fr)_336px] min-[106rem]:grid-cols-[230px_minmax(0,1fr)_440px] print:block"
    >
      {children}
      <nav aria-label="In view" className="panes hidden border-t border-hairline bg-panel print:hidden">
        {panes.map(({ id, name }) => (
          <button
            key={id}
            type="button"
            aria-pressed={pane === id}
            className="min-w-0 flex-1 truncate border-t-3 border-transparent px-2 font-medium aria-pressed:border-teal aria-pressed:bg-teal-wash"
            onClick={() => setPane(id)}
          >
            {name}
          </button>
        ))}
      </nav>
    </div>
  );
}
