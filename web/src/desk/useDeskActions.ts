import type { RefObject } from "react";
import { useMemo } from "react";

import type { Step } from "../pack/commands";
import { useSelection, useSelectionControls } from "../pack/SelectedFigure";
import type { FigureRef } from "../pack/OpenPack";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import type { Lens } from "../pack/address";
import { LENSES } from "../pack/address";
import { signing } from "../review/signing";
import { openWord } from "./openWord";
import { reviewActions } from "./reviewActions";
import { useWalk, walkActions } from "./useWalk";
import { copyClauses } from "../pack/formCommands";

export const LENS_SAID: Record<Lens, { name: string; what: string }> = {
  print: { name: "Print", what: "The page as its readers will see it" },
  exact: { name: "Exact", what: "Exact amounts, as they are stored" },
  origin: { name: "Origin", what: "Underlines: how narrow the rule is" },
  drift: { name: "Drift", what: "Bars show how far print is from exact" },
};

/** The keys that the page itself takes. */
export const PAGE_KEYS: readonly (readonly [string, string])[] = [
  ["← → ↑ ↓", "Move between figures"],
  ["Home, End", "First and last column"],
  ["Enter", "Go to the rule sentence; Enter again opens a word"],
  ["Esc", "Back to the page"],
  ["shift+↑ ↓", "Choose several lines"],
  ["alt+↑ ↓", "Move the line"],
];

const STEPS: readonly [string, Step, string][] = [
  ["[", "fewer_decimals", "Fewer decimals"],
  ["]", "more_decimals", "More decimals"],
  ["b", "next_negative", "Next way of printing negatives"],
  ["z", "next_zero", "Next way of printing zeros"],
  ["s", "next_scale", "Next scale"],
];

/** Everything that can be done on the page, by key, button or name. */
export function useDeskActions(margin: RefObject<HTMLElement | null>): Action[] {
  const { pack, statement, busy, trial, trying, tying } = usePack();
  const { act, keep, say, go, setTrying, setTying, keepTrial, dropTrial, copy, copied } = usePackControls();
  const { proof, place, lines, gaps } = useSelection();
  const { setNaming } = useSelectionControls();

  const { step, waiting } = useWalk();
  const held = useMemo(() => {
    const line = proof.lines.find((each) => each.id === place?.line);
    return line?.figures.find((figure) => figure.column === place?.column)?.held ?? false;
  }, [proof, place]);

  return useMemo<Action[]>(() => {
    const none = place === null;
    const figure: FigureRef = [statement, place?.line ?? "", place?.column ?? ""];
    return [
      ...walkActions(gaps.length, waiting, step),
      ...reviewActions(margin, (role) => keep(signing(role, pack.edition, [statement]))),
      {
        name: "Foot the pack: every statement and tie together",
        key: "f",
        button: "Foot the pack",
        main: true,
        busy,
        run: () => act(pack.foot),
      },
      {
        name: held ? "Release the selected figure" : "Hold the selected figure",
        key: "h",
        off: none,
        run: () => place && act({ place, step: "hold" }),
      },
      ...STEPS.map(([key, by, name]) => ({
        name,
        key,
        off: none,
        run: () => place && act({ place, step: by }),
      })),
      ...LENSES.map((lens, at) => ({
        name: `${LENS_SAID[lens].name} lens`,
        key: `${at + 1}`,
        run: () => go({ lens }),
      })),
      {
        name: trying ? "Keep rule changes at once" : "Try rule changes before keeping them",
        key: "t",
        run: () => setTrying(!trying),
      },
      { name: "Keep the trial", key: "k", off: trial === null, run: keepTrial },
      { name: "Drop the trial", key: "d", off: trial === null, run: dropTrial },
      {
        name: "Copy the clauses of the line",
        key: "y",
        off: none,
        run: () => {
          copy(figure);
          say("The clauses of this line are copied; v gives them to the chosen lines");
        },
      },
      {
        name: "Give the copied clauses to the chosen lines",
        key: "v",
        off: none,
        run: () => {
          const from = copied();
          if (from) act(copyClauses(statement, from, lines));
          else say("Nothing is copied yet; y copies the clauses of a line");
        },
      },
      { name: "Put the chosen lines under a new subtotal", key: "g", off: none, run: () => setNaming(true) },
      {
        name: "Make the line a part of a total",
        key: "m",
        off: none,
        run: () => openWord(margin.current?.querySelector<HTMLElement>("[data-word=total]")),
      },
      {
        name: "Change the line’s sign in its total",
        key: "-",
        off: none,
        run: () => place && act({ place, step: "flip_sign" }),
      },
      {
        name: "Tie the figure to another that has to print the same",
        key: "=",
        off: none,
        run: () => setTying(figure),
      },
      { name: "Stop tying the figure", key: "Escape", off: tying === null, run: () => setTying(null) },
      { name: "Undo", key: "u", run: () => act("undo") },
      { name: "Redo", key: "U", run: () => act("redo") },
      { name: "Editions beside each other", key: "e", run: () => go({ screen: "beside" }) },
      { name: "Places", run: () => go({ screen: "places" }) },
      { name: "Rulebook", run: () => go({ screen: "rulebook" }) },
      { name: "Footing", run: () => go({ screen: "footing" }) },
    ];
  }, [
    act,
    busy,
    copy,
    copied,
    dropTrial,
    gaps.length,
    go,
    held,
    keep,
    keepTrial,
    lines,
    margin,
    pack,
    place,
    say,
    setNaming,
    setTrying,
    setTying,
    statement,
    step,
    trial,
    trying,
    tying,
    waiting,
  ]);
}
