import { ToggleGroup } from "radix-ui";

import { Button } from "../ui/Button";
import type { Lens } from "./address";
import { LENSES } from "./address";

const SAID: Record<Lens, { name: string; what: string }> = {
  print: { name: "Print", what: "The page as its readers will see it" },
  exact: { name: "Exact", what: "Exact amounts, as they are stored" },
  origin: { name: "Origin", what: "Underlines: how narrow the rule is" },
  drift: { name: "Drift", what: "Bars show how far print is from exact" },
};

interface Props {
  name: string;
  says: string;
  lens: Lens;
  gaps: number;
  busy: boolean;
  onLens: (lens: Lens) => void;
  onNext: () => void;
  onFoot: () => void;
  onFind: () => void;
  onKeys: () => void;
}

/** The statement's name, the lenses, and what to do next. */
export function TopBar({ name, says, lens, gaps, busy, onLens, onNext, onFoot, onFind, onKeys }: Props) {
  return (
    <header className="col-span-2 flex items-center gap-2 border-b xl:gap-3 border-hairline bg-panel px-4 print:hidden">
      <h1 className="text-[15px] font-semibold">{name}</h1>
      <ToggleGroup.Root
        type="single"
        value={lens}
        aria-label="Lens"
        className="flex rounded-md border border-hairline bg-paper"
        onValueChange={(value) => {
          const chosen = LENSES.find((known) => known === value);
          if (chosen) onLens(chosen);
        }}
      >
        {LENSES.map((each, place) => (
          <ToggleGroup.Item
            key={each}
            value={each}
            aria-keyshortcuts={`${place + 1}`}
            title={`${SAID[each].what} (${place + 1})`}
            className="border-l border-hairline px-3 py-1 font-medium first:rounded-l-md first:border-l-0 last:rounded-r-md hover:bg-teal-faint data-[state=on]:bg-ink data-[state=on]:text-white"
          >
            {SAID[each].name}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      <p role="status" className="min-w-0 flex-1 text-[12.5px]/4 text-soft" title={says}>
        <span className="line-clamp-2">{says || SAID[lens].what}</span>
      </p>
      <Button shortcut="/" onClick={onFind}>
        Find
      </Button>
      <Button shortcut="?" className="max-[1100px]:hidden" onClick={onKeys}>
        Keys
      </Button>
      <Button shortcut="n" onClick={onNext} disabled={gaps === 0}>
        Next gap
      </Button>
      <Button main shortcut="f" onClick={onFoot} aria-busy={busy}>
        Foot the pack
      </Button>
    </header>
  );
}
