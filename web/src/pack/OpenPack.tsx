import { createContext, use, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { ReactNode } from "react";

import type { PackName, PackView, Problem } from "../api/client";
import type { Tried, Where } from "../api/queries";
import type { Address, Go } from "./address";
import type { PackCommand, Rows } from "./commands";
import { useCommands } from "./commands";
import type { Trial } from "./trials";
import { asOne, triedOf, useTrial } from "./trials";

/** A figure of the pack: its statement, line and column. */
export type FigureRef = [string, string, string];

/** A change in history, to look at the pack as it was right after it. */
export interface Past {
  number: number;
  says: string;
}

/** The pack in hand, what is on trial in it, and what was last said of it. */
export interface OpenPack {
  pack: PackView;
  packs: PackName[];
  statement: string;
  address: Address;
  where: Where;
  trial: Trial | null;
  tried: Tried | null;
  /** Whether changes of rules are tried before they are kept. */
  trying: boolean;
  busy: boolean;
  says: string;
  problem: Problem | null;
  /** The change after which the pack is looked at, where that is not as it is now. */
  past: Past | null;
  /** The figure that another is being chosen for, to be tied to it. */
  tying: FigureRef | null;
}

/** What can be done with it. These stay the same while the pack changes. */
export interface PackControls {
  /** Does something to the pack at once, or tries it where changes of rules are tried first. */
  act: (command: PackCommand) => void;
  /** Tries a change, whether or not others are tried first. */
  tryOut: (command: Exclude<PackCommand, string>, then?: () => void) => void;
  /** Keeps a change at once, whatever is on trial. */
  keep: (command: PackCommand, then?: () => void) => void;
  keepTrial: () => void;
  dropTrial: () => void;
  setTrying: (trying: boolean) => void;
  say: (says: string) => void;
  setProblem: (problem: Problem | null) => void;
  go: Go;
  take: (file: File) => void;
  setTying: (figure: FigureRef | null) => void;
  /** Looks at the pack as it was, or as it is again. Nothing can be changed meanwhile. */
  look: (past: Past | null) => void;
  /** Says which rows are in view, for the answer to a change. */
  see: (rows: Rows) => void;
  /** Keeps a figure whose line's clauses are to be given to lines of any statement. */
  copy: (figure: FigureRef) => void;
  copied: () => FigureRef | null;
}

const OpenPackContext = createContext<OpenPack | null>(null);
const PackControlsContext = createContext<PackControls | null>(null);

function held<T>(value: T | null): T {
  if (value === null) throw new Error("There is no pack in hand here.");
  return value;
}

/** The pack in hand, where there is one. */
export function useMaybePack(): OpenPack | null {
  return use(OpenPackContext);
}

export function usePack(): OpenPack {
  return held(use(OpenPackContext));
}

export function usePackControls(): PackControls {
  return held(use(PackControlsContext));
}

/** A pack as it was opened, and how to go elsewhere. */
interface PackAsOpened {
  pack: PackView;
  packs: PackName[];
  statement: string;
  address: Address;
  go: Go;
  onTake: (file: File) => void;
}

interface Props {
  opened: PackAsOpened;
  problem: Problem | null;
  onProblem: (problem: Problem | null) => void;
  children: ReactNode;
}

/** Holds the pack in hand for every screen of the work. */
export function OpenPackProvider(props: Props) {
  const { opened, problem, onProblem: setProblem, children } = props;
  const { pack, packs, statement, address, go, onTake } = opened;
  const [trial, setTrial] = useState<Trial | null>(null);
  const [trying, setFirst] = useState(false);
  const [says, say] = useState("");
  const [past, look] = useState<Past | null>(null);
  const [tying, setTying] = useState<FigureRef | null>(null);
  const copied = useRef<FigureRef | null>(null);
  const seen = useRef<Rows>([0, 80]);
  const tried = useMemo(
    () => (past ? { id: `at:${past.number}`, change: null } : triedOf(trial, pack)),
    [past, trial, pack],
  );
  const where = useMemo(() => ({ pack: pack.id, statement, trial: tried }), [pack.id, statement, tried]);

  const onRefusal = useCallback((refusal: { problem: Problem }) => setProblem(refusal.problem), [setProblem]);
  const onDone = useCallback(
    (said: string) => {
      say(said);
      setProblem(null);
    },
    [setProblem],
  );
  const commands = useCommands(where, seen, onRefusal, onDone);
  const onTrial = useCallback(
    (made: Trial | null) => {
      setTrial(made);
      setProblem(null);
    },
    [setProblem],
  );
  const trier = useTrial({ pack, statement, trial, seen, onTrial, onOther: commands.mutate, onRefusal });

  // Keys ask for what is so when they are pressed, and need not change with it.
  const now = useRef({ trial, trying, past });
  useEffect(() => {
    now.current = { trial, trying, past };
  }, [trial, trying, past]);
  const { mutate: mutateTrial } = trier;
  const { mutate } = commands;
  const controls = useMemo<PackControls>(() => {
    const stays = () => {
      if (now.current.past) say("This is the pack as it was. Go back to now to change it.");
      return now.current.past !== null;
    };
    const keep = (command: PackCommand, then?: () => void) => {
      if (!stays()) mutate(command, then ? { onSuccess: then } : {});
    };
    return {
      act: (command) => {
        if (stays()) return;
        const { trial: onTrialNow, trying: first } = now.current;
        if (command === "undo" && onTrialNow) mutateTrial("back");
        else if ((first || onTrialNow) && typeof command !== "string") mutateTrial(command);
        else keep(command);
      },
      tryOut: (command, then) => {
        if (!stays()) mutateTrial(command, then ? { onSuccess: then } : {});
      },
      keep,
      keepTrial: () => {
        const change = now.current.trial && asOne(now.current.trial.changes);
        // The trial stays in view until the change is kept.
        if (change) keep(change, () => setTrial(null));
      },
      dropTrial: () => setTrial(null),
      setTrying: (first) => {
        setFirst(first);
        say(first ? "Rule changes are tried first" : "Changes are kept at once");
      },
      say,
      setProblem,
      go: (to) => {
        if (to.statement !== undefined || to.screen !== undefined || to.lens !== undefined) say("");
        // The pack as it was is looked at on its pages only.
        if (to.screen !== undefined && to.screen !== "page") look(null);
        go(to);
      },
      take: onTake,
      setTying,
      look,
      see: (rows) => {
        seen.current = rows;
      },
      copy: (figure) => {
        copied.current = figure;
      },
      copied: () => copied.current,
    };
  }, [go, mutate, mutateTrial, onTake, setProblem]);

  const busy = commands.isPending;
  const openPack = useMemo<OpenPack>(
    () => ({
      pack,
      packs,
      statement,
      address,
      where,
      trial,
      tried,
      trying,
      busy,
      says,
      problem,
      past,
      tying,
    }),
    [pack, packs, statement, address, where, trial, tried, trying, busy, says, problem, past, tying],
  );
  return (
    <PackControlsContext value={controls}>
      <OpenPackContext value={openPack}>{children}</OpenPackContext>
    </PackControlsContext>
  );
}
