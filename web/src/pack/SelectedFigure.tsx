import { createContext, use, useCallback, useMemo, useRef, useState } from "react";
import type { ReactNode } from "react";

import type { CheckView, ProofView } from "../api/client";
import type { Place } from "../api/queries";
import { showFigure } from "./focus";
import { usePack, usePackControls } from "./OpenPack";

/** The figure in hand on the page, the lines chosen with it, and the relation looked at. */
export interface Selection {
  proof: ProofView;
  place: Place | null;
  /** Chosen with shift and the arrows; the line in hand alone is not among them. */
  chosen: ReadonlySet<string>;
  /** The lines that are acted on together: those chosen, or the one in hand. */
  lines: readonly string[];
  gaps: readonly CheckView[];
  active: CheckView | undefined;
  /** Whether a name is asked for, for a subtotal over the lines chosen. */
  naming: boolean;
}

export interface SelectionControls {
  /** Takes a figure in hand; once more of the lines up to it where they are being chosen. */
  select: (place: Place) => void;
  /** The next figure selected chooses the lines from the one in hand to it. */
  extend: () => void;
  visit: (check: CheckView) => void;
  setNaming: (naming: boolean) => void;
}

const SelectionContext = createContext<Selection | null>(null);
const SelectionControlsContext = createContext<SelectionControls | null>(null);

function held<T>(value: T | null): T {
  if (value === null) throw new Error("There is no page in hand here.");
  return value;
}

export function useSelection(): Selection {
  return held(use(SelectionContext));
}

export function useSelectionControls(): SelectionControls {
  return held(use(SelectionControlsContext));
}

/** Holds the selected figure of one page. */
export function SelectionProvider({ proof, children }: { proof: ProofView; children: ReactNode }) {
  const { address } = usePack();
  const { go } = usePackControls();
  const [chosenCheck, setChosenCheck] = useState<string | null>(null);
  const [from, setFrom] = useState<string | null>(null);
  const [naming, setNaming] = useState(false);
  const extending = useRef(false);

  const gaps = useMemo(
    () => proof.checks.filter((check) => check.status === "gap" || check.status === "break"),
    [proof],
  );
  const place = useMemo(() => placeOn(proof, address.place, gaps), [proof, address.place, gaps]);
  const active = useMemo(() => {
    const here = proof.checks.filter((c) => c.line === place?.line && c.column === place.column);
    return here.find((c) => c.id === chosenCheck) ?? here.find((c) => c.status !== "foots") ?? here[0];
  }, [proof, place, chosenCheck]);
  const chosen = useMemo(() => linesBetween(proof, from, place), [proof, from, place]);
  const line = place?.line;
  const lines = useMemo(() => (chosen.size > 0 ? [...chosen] : line ? [line] : []), [chosen, line]);

  const select = useCallback(
    (to: Place) => {
      setChosenCheck(null);
      if (!extending.current) setFrom(null);
      extending.current = false;
      go({ place: to });
    },
    [go],
  );
  const extend = useCallback(() => {
    extending.current = true;
    setFrom((began) => began ?? line ?? null);
  }, [line]);
  const visit = useCallback(
    (check: CheckView) => {
      setChosenCheck(check.id);
      setFrom(null);
      go({ place: { line: check.line, column: check.column } });
      showFigure(check);
    },
    [go],
  );

  const selection = useMemo<Selection>(
    () => ({ proof, place, chosen, lines, gaps, active, naming }),
    [proof, place, chosen, lines, gaps, active, naming],
  );
  const controls = useMemo<SelectionControls>(
    () => ({ select, extend, visit, setNaming }),
    [select, extend, visit, setNaming],
  );
  return (
    <SelectionControlsContext value={controls}>
      <SelectionContext value={selection}>{children}</SelectionContext>
    </SelectionControlsContext>
  );
}

/** The place that the address names, or else the first gap, or else the first figure. */
function placeOn(proof: ProofView, named: Place | null, gaps: readonly CheckView[]): Place | null {
  const known =
    proof.lines.some((line) => line.id === named?.line && line.figured) &&
    proof.columns.some((column) => column.id === named?.column);
  if (named && known) return named;
  const first = gaps[0];
  if (first) return { line: first.line, column: first.column };
  const line = proof.lines.find((each) => each.figured);
  const column = proof.columns[0];
  return line && column ? { line: line.id, column: column.id } : null;
}

/** The lines chosen with shift and the arrows: from where it began to the selected figure. */
function linesBetween(proof: ProofView, from: string | null, to: Place | null): Set<string> {
  const ends = [from, to?.line].map((id) => proof.lines.findIndex((line) => line.id === id));
  if (from === null || ends.some((end) => end < 0)) return new Set();
  const between = proof.lines.slice(Math.min(...ends), Math.max(...ends) + 1);
  return new Set(between.filter((line) => line.figured).map((line) => line.id));
}
