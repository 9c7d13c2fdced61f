import { useMemo, useRef } from "react";

import type { EditionView } from "../api/client";
import { useBeside, useEditions } from "../api/places";
import { WorkScreen } from "../frame/WorkScreen";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { Notice } from "../words/Notice";
import { BesidePage } from "./BesidePage";
import { EditionMargin } from "./EditionMargin";

/** Two editions of a statement beside each other, and what differs between them other than scale. */
export function Beside() {
  const { pack, statement, address, says, problem } = usePack();
  const { setProblem } = usePackControls();
  const editions = useEditions(pack.id, pack.revision).data ?? [];
  const other = otherOf(editions, pack.edition, address.beside);
  const view = useBeside(pack.id, pack.revision, statement, other?.id ?? null).data;
  const page = useRef<HTMLDivElement>(null);
  const actions = useBesideActions(other, () => nextDifference(page.current));
  const name = pack.statements.find((each) => each.id === statement)?.name ?? "";
  const own = editions.find((each) => each.id === pack.edition);
  return (
    <WorkScreen
      title={name}
      says={says || (own && other ? `${own.name} beside ${other.name}` : "One edition")}
      actions={actions}
      margin={
        <>
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          <EditionMargin editions={editions} other={other} differences={view?.differences ?? []} />
        </>
      }
      footer={<Feet editions={editions} />}
    >
      <div ref={page}>{view && other ? <BesidePage view={view} /> : <Alone />}</div>
    </WorkScreen>
  );
}

function Alone() {
  return (
    <p className="max-w-prose">
      The pack has one edition so far. “+ Another edition” on the left adds one for other readers: a few rules
      on top of the pack’s own, footed on its own.
    </p>
  );
}

/** The edition that stands beside the one in hand: the one named, or the next there is. */
function otherOf(editions: EditionView[], own: string, named: string | null): EditionView | undefined {
  const others = editions.filter((each) => each.id !== own);
  return others.find((each) => each.id === named) ?? (named === "" ? others.at(-1) : others[0]);
}

/** The focus goes to the next figure that differs, round and round. */
function nextDifference(page: HTMLElement | null): void {
  const differing = [...(page?.querySelectorAll<HTMLElement>("td.differs") ?? [])];
  const at = differing.findIndex((each) => each === document.activeElement);
  differing[(at + 1) % Math.max(differing.length, 1)]?.focus();
}

function useBesideActions(other: EditionView | undefined, next: () => void): Action[] {
  const { pack, busy } = usePack();
  const { act, go, keep } = usePackControls();
  return useMemo(
    () => [
      { name: "Next difference", key: "d", button: "Next difference", off: !other, run: next },
      { name: "One edition", key: "e", button: "One edition", run: () => go({ screen: "page" }) },
      {
        name: other ? `Go to the ${other.name} edition, to foot it` : "Foot this edition",
        key: "f",
        button: other ? `Foot the ${other.name} edition` : "Foot",
        main: true,
        busy,
        run: () => {
          // Each edition is footed on its own, on the screen that shows what would move.
          if (other) go({ pack: other.address, screen: "footing" });
          else go({ screen: "footing" });
        },
      },
      {
        name: "Switch to the other edition",
        key: "o",
        off: !other,
        run: () => {
          if (other) go({ pack: other.address, beside: pack.edition });
        },
      },
      { name: "Undo", key: "u", run: () => act("undo") },
      { name: "Redo", key: "U", run: () => act("redo") },
    ],
    // The opener only moves the focus.
    // eslint-disable-next-line react-hooks/exhaustive-deps
    [act, busy, go, keep, other, pack.edition],
  );
}

function Feet({ editions }: { editions: EditionView[] }) {
  return (
    <>
      <h2 className="font-semibold">Footing</h2>
      <ul className="flex min-w-0 flex-wrap gap-x-4">
        {editions.map(({ id, name, gaps, nudges }) => (
          <li key={id}>
            <span className="text-soft">{name}</span>{" "}
            {gaps > 0 ? (
              <span className="rounded-[5px] border border-rust bg-rust-wash px-1.5 font-semibold text-rust">
                {gaps}
              </span>
            ) : (
              <span className="text-moss">foots</span>
            )}
            {nudges > 0 ? <span className="text-soft">, {nudges} nudged</span> : null}
          </li>
        ))}
      </ul>
    </>
  );
}
