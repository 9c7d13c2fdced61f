import { lazy, Suspense, useState } from "react";
import type { KeyboardEvent } from "react";

import type { WordMenuProps } from "./wordButton";
import { wordButton } from "./wordButton";

const OpenWordMenu = lazy(() => import("./OpenWordMenu").then((made) => ({ default: made.OpenWordMenu })));

const OPENS = ["Enter", " ", "ArrowDown"];

/** A word that opens, by a click or by Enter. Its menu comes when the first word of the page is opened. */
export function WordMenu(props: WordMenuProps) {
  const [asked, setAsked] = useState<"by mouse" | "by key" | null>(null);
  const { word } = props;
  const closed = (
    <button
      {...wordButton(word)}
      aria-haspopup="menu"
      aria-expanded={false}
      data-state="closed"
      onClick={() => setAsked("by mouse")}
      onKeyDown={(event: KeyboardEvent) => {
        if (!OPENS.includes(event.key)) return;
        event.preventDefault();
        setAsked("by key");
      }}
    >
      {word.shown ?? word.label}
    </button>
  );
  return asked ? (
    <Suspense fallback={closed}>
      <OpenWordMenu byKey={asked === "by key"} {...props} />
    </Suspense>
  ) : (
    closed
  );
}
