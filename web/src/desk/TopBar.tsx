import { ToggleGroup } from "radix-ui";

import { Actions } from "../frame/Actions";
import { useSelection } from "../pack/SelectedFigure";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { LENSES } from "../pack/address";
import { LENS_SAID, PAGE_KEYS } from "./useDeskActions";

/** The statement's name, the lenses, and what to do next. */
export function TopBar({ actions }: { actions: readonly Action[] }) {
  const { address, says } = usePack();
  const { go } = usePackControls();
  const { proof } = useSelection();
  const { lens } = address;
  return (
    <header className="col-span-2 flex items-center gap-2 border-b xl:gap-3 border-hairline bg-panel px-4 print:hidden">
      <h1 className="text-[15px] font-semibold">{proof.name}</h1>
      <ToggleGroup.Root
        type="single"
        value={lens}
        aria-label="Lens"
        className="flex rounded-md border border-hairline bg-paper"
        onValueChange={(value) => {
          const chosen = LENSES.find((known) => known === value);
          if (chosen) go({ lens: chosen });
        }}
      >
        {LENSES.map((each, place) => (
          <ToggleGroup.Item
            key={each}
            value={each}
            aria-keyshortcuts={`${place + 1}`}
            title={`${LENS_SAID[each].what} (${place + 1})`}
            className="border-l border-hairline px-3 py-1 font-medium first:rounded-l-md first:border-l-0 last:rounded-r-md hover:bg-teal-faint data-[state=on]:bg-ink data-[state=on]:text-white"
          >
            {LENS_SAID[each].name}
          </ToggleGroup.Item>
        ))}
      </ToggleGroup.Root>
      <p role="status" className="min-w-0 flex-1 text-[12.5px]/4 text-soft" title={says}>
        <span className="line-clamp-2">{says || LENS_SAID[lens].what}</span>
      </p>
      <Actions actions={actions} also={PAGE_KEYS} />
    </header>
  );
}
