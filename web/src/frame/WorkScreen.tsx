import type { ReactNode } from "react";

import type { Action } from "../pack/actions";
import { useMaybePack } from "../pack/OpenPack";
import { Spine } from "../spine/Spine";
import { Actions } from "./Actions";
import { Panes } from "./Panes";

interface Props {
  title: string;
  says: string;
  actions: readonly Action[];
  margin: ReactNode;
  footer: ReactNode;
  children: ReactNode;
}

/** A screen of the work: the spine, what can be done, the work itself, and its margin. */
export function WorkScreen({ title, says, actions, margin, footer, children }: Props) {
  const pack = useMaybePack();
  return (
    <Panes work={title} margin="Margin" at={title}>
      {pack ? <Spine /> : <Nameplate />}
      <header className="col-span-2 flex items-center gap-3 border-b border-hairline bg-panel px-4">
        <h1 className="text-[15px] font-semibold">{title}</h1>
        <p role="status" className="min-w-0 flex-1 truncate text-soft">
          {says}
        </p>
        <Actions actions={actions} />
      </header>
      <main className="relative space-y-2.5 overflow-auto p-4" aria-label={title}>
        {children}
      </main>
      <aside
        aria-label="Margin"
        // It scrolls, and may have no control in it by which keys could reach it.
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        className="relative space-y-4 overflow-y-auto border-l border-hairline bg-panel-light p-4"
      >
        {margin}
      </aside>
      <footer className="col-span-2 flex items-center gap-3 border-t border-hairline bg-panel px-4">
        {typeof footer === "string" ? <p className="text-soft">{footer}</p> : footer}
      </footer>
    </Panes>
  );
}

/** What stands in place of the spine while there is no pack. */
function Nameplate() {
  return (
    <div className="row-span-3 border-r border-hairline bg-panel">
      <p className="px-4 pt-3 text-[17px] font-semibold">
        Humble <span className="border-b-3 border-double border-ink">Sum</span>
      </p>
    </div>
  );
}
