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
      <fieldset className="flex rounded-md border border-hairline bg-paper">
        <legend className="sr-only">Lens</legend>
        {LENSES.map((each, place) => (
          <label
            key={each}
            title={`${LENS_SAID[each].what} (${place + 1})`}
            className="cursor-pointer border-l border-hairline px-3 py-1 font-medium first-of-type:rounded-l-md first-of-type:border-l-0 last:rounded-r-md hover:bg-teal-faint has-checked:bg-ink has-checked:text-white has-focus-visible:outline-2 has-focus-visible:outline-offset-1 has-focus-visible:outline-teal"
          >
            <input
              type="radio"
              name="lens"
              className="sr-only"
              checked={each === lens}
              aria-keyshortcuts={`${place + 1}`}
              onChange={() => go({ lens: each })}
            />
            {LENS_SAID[each].name}
          </label>
        ))}
      </fieldset>
      <p role="status" className="min-w-0 flex-1 text-[12.5px]/4 text-soft" title={says}>
        <span className="line-clamp-2">{says || LENS_SAID[lens].what}</span>
      </p>
      <Actions actions={actions} also={PAGE_KEYS} />
    </header>
  );
}
