import { lazy, Suspense, useRef, useState } from "react";

import { usePackControls } from "../pack/OpenPack";
import { PackNameplate } from "./PackNameplate";
import { usePacks } from "./usePacks";

const OpenPackMenu = lazy(() => import("./OpenPackMenu").then((made) => ({ default: made.OpenPackMenu })));
const AboutPack = lazy(() => import("./AboutPack").then((made) => ({ default: made.AboutPack })));
const PutAwaySheet = lazy(() => import("./PutAwaySheet").then((made) => ({ default: made.PutAwaySheet })));

const OPENS = ["Enter", " ", "ArrowDown"];

/** The pack in hand, the others to go to, and a pack file to open. Its menu comes when it is first opened. */
export function PackMenu() {
  const { take } = usePackControls();
  const picker = useRef<HTMLInputElement>(null);
  const [asked, setAsked] = useState<"by mouse" | "by key" | null>(null);
  const [sheet, setSheet] = useState<"about" | "away" | null>(null);
  const { copy, putAway, takeOut } = usePacks();
  const commands = [
    ["About this pack…", () => setSheet("about")],
    ["Copy this pack", copy],
    ["Put this pack away", putAway],
    ["Remove this pack", takeOut],
    ["Packs put away or removed…", () => setSheet("away")],
  ] as const;
  const closed = (
    <PackNameplate
      aria-haspopup="menu"
      aria-expanded={false}
      onClick={() => setAsked("by mouse")}
      onKeyDown={(event) => {
        if (!OPENS.includes(event.key)) return;
        event.preventDefault();
        setAsked("by key");
      }}
    />
  );
  return (
    <div className="border-b border-hairline px-2 pt-2 pb-2">
      {asked ? (
        <Suspense fallback={closed}>
          <OpenPackMenu
            byKey={asked === "by key"}
            commands={commands}
            onFile={() => picker.current?.click()}
          />
        </Suspense>
      ) : (
        closed
      )}
      <input
        ref={picker}
        type="file"
        accept=".json,application/json"
        aria-label="Pack file"
        tabIndex={-1}
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) take(file);
          event.target.value = "";
        }}
      />
      <Suspense fallback={null}>
        {sheet === "about" ? <AboutPack onClose={() => setSheet(null)} /> : null}
        {sheet === "away" ? <PutAwaySheet onClose={() => setSheet(null)} /> : null}
      </Suspense>
    </div>
  );
}
