import type { KeyboardEvent } from "react";
import { useMemo } from "react";

import type { ProofView } from "../api/client";
import type { Place } from "../api/queries";
import { useSelectionControls } from "../pack/SelectedFigure";
import { showFigure } from "../pack/focus";

interface Keyed {
  proof: ProofView;
  place: Place | null;
  onMove: (by: 1 | -1) => void;
  onOpen: () => void;
}

/** The keys that the page itself takes: arrows between figures, with alt to move the line, and Enter. */
export function usePageKeys({ proof, place, onMove, onOpen }: Keyed): (event: KeyboardEvent) => void {
  const { select, extend } = useSelectionControls();
  const figured = useMemo(() => proof.lines.filter((line) => line.figured), [proof.lines]);
  return (event: KeyboardEvent) => {
    if (!place || event.ctrlKey || event.metaKey) return;
    if (event.altKey) {
      if (event.key === "ArrowUp" || event.key === "ArrowDown") {
        event.preventDefault();
        onMove(event.key === "ArrowUp" ? -1 : 1);
      }
      return;
    }
    const row = figured.findIndex((line) => line.id === place.line);
    const column = proof.columns.findIndex((each) => each.id === place.column);
    const to: Partial<Record<string, [number, number]>> = {
      ArrowUp: [row - 1, column],
      ArrowDown: [row + 1, column],
      ArrowLeft: [row, column - 1],
      ArrowRight: [row, column + 1],
      Home: [row, 0],
      End: [row, proof.columns.length - 1],
      PageUp: [row - 20, column],
      PageDown: [row + 20, column],
    };
    const next = to[event.key];
    if (next) {
      event.preventDefault();
      const line = figured[Math.min(Math.max(next[0], 0), figured.length - 1)];
      const at = proof.columns[Math.min(Math.max(next[1], 0), proof.columns.length - 1)];
      if (!line || !at) return;
      if (event.shiftKey) extend();
      select({ line: line.id, column: at.id });
      showFigure({ line: line.id, column: at.id });
    } else if (event.key === "Enter") {
      event.preventDefault();
      onOpen();
    }
  };
}
