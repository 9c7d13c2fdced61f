import type { KeyboardEvent } from "react";

import type { DashboardView, ItemView } from "../api/client";
import { Chart } from "./Chart";
import { Passage } from "./Passage";
import { Tile } from "./Tile";

interface Props {
  view: DashboardView;
  item: ItemView;
  selected: boolean;
  editing: boolean;
  onEdit: (item: string | null) => void;
  onTake: () => void;
  onKey: (event: KeyboardEvent) => void;
  onDrag: () => void;
  onDrop: () => void;
}

const SORTS = { tile: "Tile", chart: "Chart", passage: "Passage" };

/** A place on the dashboard: taken in hand by focus, moved by dragging its upper edge. */
export function Item({ view, item, selected, editing, onEdit, onTake, onKey, onDrag, onDrop }: Props) {
  const off = view.findings.filter((each) => each.item === item.id).length;
  return (
    // An item of a list that takes the focus, so that arrows go from one to the next.
    // eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions
    <div
      id={`item:${item.id}`}
      role="listitem"
      aria-label={`${SORTS[item.kind]}: ${item.label}${off > 0 ? ", disagrees" : ""}`}
      // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
      tabIndex={selected ? 0 : -1}
      className="item"
      data-hand={selected || undefined}
      style={{ gridColumn: `span ${item.width}` }}
      onFocus={(event) => {
        if (event.target === event.currentTarget && !selected) onTake();
      }}
      onClick={() => {
        if (!selected) onTake();
      }}
      onKeyDown={onKey}
      onDragOver={(event) => event.preventDefault()}
      onDrop={(event) => {
        event.preventDefault();
        onDrop();
      }}
    >
      <div
        className="grip"
        aria-hidden="true"
        title="Drag to another place"
        draggable={!editing}
        onDragStart={(event) => {
          event.dataTransfer.setData("text/plain", item.id);
          event.dataTransfer.effectAllowed = "move";
          onDrag();
        }}
      />
      {item.kind === "tile" ? <Tile tile={item} /> : null}
      {item.kind === "chart" ? <Chart chart={item} /> : null}
      {item.kind === "passage" ? (
        <Passage view={view} passage={item} editing={editing} onClose={() => onEdit(null)} />
      ) : null}
    </div>
  );
}
