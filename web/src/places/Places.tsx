import { useMemo, useRef, useState } from "react";

import type { DashboardView, ItemView } from "../api/client";
import { useDashboard } from "../api/places";
import { WorkScreen } from "../frame/WorkScreen";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Notice } from "../words/Notice";
import { Agreement } from "./Agreement";
import { Dashboards } from "./Dashboards";
import { Item } from "./Item";
import { ItemMargin } from "./ItemMargin";
import { PlaceFigure } from "./PlaceFigure";
import { showItem } from "./showItem";
import { usePlacesActions } from "./usePlacesActions";
import { moveItem } from "../pack/formCommands";

const NONE: ItemView[] = [];

/** Dashboards: tiles, charts and passages whose figures follow the statements, and whether they agree. */
export function Places() {
  const { pack, address, says, problem } = usePack();
  const { setProblem, go } = usePackControls();
  const [placing, setPlacing] = useState(false);
  const [editing, setEditing] = useState<string | null>(null);
  const chosen = useChosen();
  const view = useDashboard(pack.id, pack.revision, chosen).data;
  const items = view?.items ?? NONE;
  const item = items.find((each) => each.id === address.item) ?? items[0];
  const visit = (id: string) => {
    go({ item: id });
    showItem(id);
  };
  const actions = usePlacesActions({ view, item, place: () => setPlacing(true), edit: setEditing });
  return (
    <WorkScreen
      title="Places"
      says={
        says || (view ? `For readers of the ${view.edition_name} edition; every figure follows its page` : "")
      }
      actions={actions}
      margin={
        <>
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          {view && item ? <ItemMargin key={item.id} view={view} item={item} onEdit={setEditing} /> : null}
        </>
      }
      footer={<Agreement view={view} opening={pack.dashboards.length > 0} onVisit={visit} />}
    >
      <Dashboards view={view} />
      {!view && pack.dashboards.length > 0 ? <p role="status">Opening…</p> : null}
      {view && items.length === 0 ? (
        <p className="max-w-prose pt-2">
          Nothing is placed here yet. “Place a figure” puts one on a tile, draws a line of the statement as a
          chart, or begins a passage whose figures follow.
        </p>
      ) : null}
      {view ? <Grid view={view} selected={item?.id ?? null} editing={editing} onEdit={setEditing} /> : null}
      {placing && view ? <PlaceFigure view={view} onClose={() => setPlacing(false)} /> : null}
    </WorkScreen>
  );
}

/** The dashboard that the address names, or the first of the edition in hand. */
function useChosen(): string | null {
  const { pack, address } = usePack();
  return useMemo(() => {
    const named = pack.dashboards.find((each) => each.id === address.dashboard);
    const own = pack.dashboards.find((each) => each.edition === pack.edition);
    return (named ?? own)?.id ?? null;
  }, [pack.dashboards, pack.edition, address.dashboard]);
}

interface GridProps {
  view: DashboardView;
  selected: string | null;
  editing: string | null;
  onEdit: (item: string | null) => void;
}

const STEPS: Record<string, number> = { ArrowRight: 1, ArrowDown: 1, ArrowLeft: -1, ArrowUp: -1 };

/** The items in their places. Arrows go from one to the next; dragging one puts it before another. */
function Grid({ view, selected, editing, onEdit }: GridProps) {
  const { go, keep } = usePackControls();
  const dragged = useRef<string | null>(null);
  const ids = view.items.map((each) => each.id);
  return (
    <div className="dashboard" role="list" aria-label={view.name}>
      {view.items.map((item, place) => (
        <Item
          key={item.id}
          view={view}
          item={item}
          selected={item.id === selected}
          editing={item.id === editing}
          onEdit={onEdit}
          onTake={() => go({ item: item.id })}
          onKey={(event) => {
            const step = STEPS[event.key];
            const next = step === undefined ? undefined : ids[place + step];
            if (!next || event.target !== event.currentTarget) return;
            event.preventDefault();
            go({ item: next });
            showItem(next);
          }}
          onDrag={() => {
            dragged.current = item.id;
          }}
          onDrop={() => {
            const moved = dragged.current;
            dragged.current = null;
            if (moved === null || moved === item.id) return;
            // Dropped on one that stands later, it goes behind that one.
            const later = ids.indexOf(moved) < place;
            const before = later ? (ids[place + 1] ?? null) : item.id;
            keep(moveItem(view.id, moved, before));
          }}
        />
      ))}
    </div>
  );
}
