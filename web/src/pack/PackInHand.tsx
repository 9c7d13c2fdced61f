import { createContext, use, useCallback, useEffect, useMemo, useRef, useState } from "react";
import type { ReactNode } from "react";

import type { PackName, PackView, Problem } from "../api/client";
import type { Tried, Where } from "../api/queries";
import type { Address, Go } from "./address";
import type { Deed, Rows } from "./deeds";
import { useDeeds } from "./deeds";
import type { Trial } from "./trials";
import { together, triedOf, useTrial } from "./trials";

/** A figure of the pack: its statement, line and column. */
export type Spot = [string, string, string];

/** A change in history, to look at the pack as it was right after it. */
export interface Past {
  number: number;
  says: string;
}

/** The pack in hand, what is on trial in it, and what was last said of it. */
export interface InHand {
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
  tying: Spot | null;
}

/** What can be done with it. These stay the same while the pack changes. */
export interface Acts {
  /** Does something to the pack at once, or tries it where changes of rules are tried first. */
  act: (deed: Deed) => void;
  /** Tries a change, whether or not others are tried first. */
  tryOut: (deed: Exclude<Deed, string>, then?: () => void) => void;
  /** Keeps a change at once, whatever is on trial. */
  keep: (deed: Deed, then?: () => void) => void;
  keepTrial: () => void;
  dropTrial: () => void;
  setTrying: (trying: boolean) => void;
  say: (says: string) => void;
  setProblem: (problem: Problem | null) => void;
  go: Go;
  take: (file: File) => void;
  setTying: (figure: Spot | null) => void;
  /** Looks at the pack as it was, or as it is again. Nothing can be changed meanwhile. */
  look: (past: Past | null) => void;
  /** Says which rows are in view, for the answer to a change. */
  see: (rows: Rows) => void;
  /** Keeps a figure whose line's clauses are to be given to lines of any statement. */
  copy: (figure: Spot) => void;
  copied: () => Spot | null;
}

const InHandContext = createContext<InHand | null>(null);
const ActsContext = createContext<Acts | null>(null);

function held<T>(value: T | null): T {
  if (value === null) throw new Error("There is no pack in hand here.");
  return value;
}

/** The pack in hand, where there is one. */
export function useMaybePack(): InHand | null {
  return use(InHandContext);
}

export function usePack(): InHand {
  return held(use(InHandContext));
}

export function useActs(): Acts {
  return held(use(ActsContext));
}

/** A pack as it was opened, and how to go elsewhere. */
export interface OpenedPack {
  pack: PackView;
  packs: PackName[];
  statement: string;
  address: Address;
  go: Go;
  onTake: (file: File) => void;
}

interface Props {
  opened: OpenedPack;
  problem: Problem | null;
  onProblem: (problem: Problem | null) => void;
  children: ReactNode;
}

/** Holds the pack in hand for every screen of the work. */
export function PackInHand(props: Props) {
  const { opened, problem, onProblem: setProblem, children } = props;
  const { pack, packs, statement, address, go, onTake } = opened;
  const [trial, setTrial] = useState<Trial | null>(null);
  const [trying, setFirst] = useState(false);
  const [says, say] = useState("");
  const [past, look] = useState<Past | null>(null);
  const [tying, setTying] = useState<Spot | null>(null);
  const copied = useRef<Spot | null>(null);
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
  const deeds = useDeeds(where, seen, onRefusal, onDone);
  const onTrial = useCallback(
    (made: Trial | null) => {
      setTrial(made);
      setProblem(null);
    },
    [setProblem],
  );
  const trier = useTrial({ pack, statement, trial, seen, onTrial, onOther: deeds.mutate, onRefusal });

  // Keys ask for what is so when they are pressed, and need not change with it.
  const now = useRef({ trial, trying, past });
  useEffect(() => {
    now.current = { trial, trying, past };
  }, [trial, trying, past]);
  const { mutate: mutateTrial } = trier;
  const { mutate } = deeds;
  const acts = useMemo<Acts>(() => {
    const stays = () => {
      if (now.current.past) say("This is the pack as it was. Go back to now to change it.");
      return now.current.past !== null;
    };
    const keep = (deed: Deed, then?: () => void) => {
      if (!stays()) mutate(deed, then ? { onSuccess: then } : {});
    };
    return {
      act: (deed) => {
        if (stays()) return;
        const { trial: onTrialNow, trying: first } = now.current;
        if (deed === "undo" && onTrialNow) mutateTrial("back");
        else if ((first || onTrialNow) && typeof deed !== "string") mutateTrial(deed);
        else keep(deed);
      },
      tryOut: (deed, then) => {
        if (!stays()) mutateTrial(deed, then ? { onSuccess: then } : {});
      },
      keep,
      keepTrial: () => {
        const change = now.current.trial && together(now.current.trial.changes);
        // The trial stays in view until the change is kept.
        if (change) keep(change, () => setTrial(null));
      },
      dropTrial: () => setTrial(null),
      setTrying: (first) => {
        setFirst(first);
        say(first ? "Changes of rules are tried first" : "Changes are kept at once");
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

  const busy = deeds.isPending;
  const inHand = useMemo<InHand>(
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
    <ActsContext value={acts}>
      <InHandContext value={inHand}>{children}</InHandContext>
    </ActsContext>
  );
}
