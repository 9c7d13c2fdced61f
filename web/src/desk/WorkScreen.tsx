import type { ReactNode } from "react";

import type { PackName, PackView } from "../api/client";
import type { Deed } from "../api/queries";
import { Spine } from "../spine/Spine";
import type { Address, Screen } from "./address";

/** What every screen of the work is about, and how it is left. */
export interface Work {
  pack: PackView;
  statement: string;
  packs: PackName[];
  go: (to: Partial<Address>) => void;
  onTake: (file: File) => void;
}

interface Props extends Work {
  screen: Screen;
  title: string;
  says: string;
  act: (deed: Deed) => void;
  actions: ReactNode;
  margin: ReactNode;
  footer: string;
  children: ReactNode;
}

/** A screen of the work: the spine, what can be done, the work itself, and its margin. */
export function WorkScreen(props: Props) {
  const { pack, packs, statement, go, onTake, act, screen } = props;
  return (
    <div className="desk grid h-full grid-cols-[152px_minmax(0,1fr)_288px] grid-rows-[46px_minmax(0,1fr)_62px] xl:grid-cols-[190px_minmax(0,1fr)_336px] min-[1700px]:grid-cols-[230px_minmax(0,1fr)_420px]">
      <Spine
        pack={pack}
        packs={packs}
        statement={statement}
        act={act}
        onStatement={(id) => go({ screen: "page", statement: id, place: null })}
        onPack={(id) => go({ pack: id, statement: null, place: null })}
        onTake={onTake}
        onGo={(to) => go({ screen: to })}
        screen={screen}
      />
      <header className="col-span-2 flex items-center gap-3 border-b border-hairline bg-panel px-4">
        <h1 className="text-[15px] font-semibold">{props.title}</h1>
        <p role="status" className="min-w-0 flex-1 truncate text-soft">
          {props.says}
        </p>
        {props.actions}
      </header>
      <main className="relative space-y-2.5 overflow-auto p-4" aria-label={props.title}>
        {props.children}
      </main>
      <aside
        aria-label="Margin"
        // It scrolls, and may have no control in it by which keys could reach it.
        // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
        tabIndex={0}
        className="relative space-y-4 overflow-y-auto border-l border-hairline bg-panel-light p-4"
      >
        {props.margin}
      </aside>
      <footer className="col-span-2 flex items-center gap-3 border-t border-hairline bg-panel px-4">
        <h2 className="font-semibold">Footing</h2>
        <p className="text-soft">{props.footer}</p>
      </footer>
    </div>
  );
}
