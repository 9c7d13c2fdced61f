import { useQuery } from "@tanstack/react-query";
import { useCallback, useMemo, useRef } from "react";

import type { ProofView } from "../api/client";
import { proofQuery } from "../api/queries";
import { Margin } from "../margin/Margin";
import { SelectionProvider, useSelection } from "../pack/SelectedFigure";
import { Panes } from "../frame/Panes";
import { usePackControls, usePack } from "../pack/OpenPack";
import { showFigure, showSelected } from "../pack/focus";
import { Page } from "../page/Page";
import type { Drop } from "../page/dragging";
import { Rail } from "../rail/Rail";
import { Spine } from "../spine/Spine";
import { useWayBack } from "../ui/useKeys";
import { TopBar } from "./TopBar";
import { useDeskActions } from "./useDeskActions";
import { makePart, moveLine, tie } from "../pack/formCommands";

/** Spine, page, margin and rail, and the keys that act on them. */
export function Desk() {
  const { where, trial, tried } = usePack();
  // The page as it was stays in view until the one on trial has come.
  const kept = useQuery(proofQuery({ ...where, trial: null })).data;
  const proof = useQuery({ ...proofQuery(where), enabled: tried !== null }).data ?? kept;
  // On a large page a rule on trial may change every figure, which leaves nothing to compare.
  const foots = trial?.changes.some(({ kind }) => kind === "foot") ?? false;
  const compared = tried && kept && (foots || !kept.large) ? kept : null;
  if (!proof) return <p className="p-10">Opening…</p>;
  return (
    <SelectionProvider proof={proof}>
      <Laid before={compared} />
    </SelectionProvider>
  );
}

/** The desk laid out around one page. */
function Laid({ before }: { before: ProofView | null }) {
  const { statement, tying } = usePack();
  const { act, setTying } = usePackControls();
  const { proof, place } = useSelection();
  const margin = useRef<HTMLElement>(null);
  const actions = useDeskActions(margin);
  useWayBack(showSelected);

  const lineIds = useMemo(() => proof.lines.map((each) => each.id), [proof]);
  const moveBy = useCallback(
    (by: 1 | -1) => {
      const at = lineIds.indexOf(place?.line ?? "");
      const before = by < 0 ? lineIds[at - 1] : lineIds[at + 2];
      if (!place || at < 0 || (by < 0 && !before) || (by > 0 && at + 1 >= lineIds.length)) return;
      act(moveLine(statement, place.line, before ?? null));
      showFigure(place);
    },
    [act, lineIds, place, statement],
  );
  const drop = useCallback(
    (line: string, { line: onto, how }: Drop) => {
      if (how === "onto") {
        act(makePart(statement, line, onto));
        return;
      }
      const before = how === "before" ? onto : (lineIds[lineIds.indexOf(onto) + 1] ?? null);
      if (before !== line) act(moveLine(statement, line, before));
    },
    [act, lineIds, statement],
  );
  const open = useCallback(() => {
    if (!tying) {
      margin.current?.querySelector<HTMLElement>("[data-word]")?.focus();
      return;
    }
    const [owner, line, column] = tying;
    if (!place || (owner === statement && line === place.line && column === place.column)) return;
    setTying(null);
    act(tie(tying, [statement, place.line, place.column]));
  }, [act, place, setTying, statement, tying]);

  return (
    <Panes work={proof.name} margin="Figure" at={statement}>
      <Spine />
      <TopBar actions={actions} />
      <Page before={before} onMove={moveBy} onDrop={drop} onOpen={open} />
      <Margin ref={margin} />
      <Rail />
    </Panes>
  );
}
