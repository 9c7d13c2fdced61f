import type { CSSProperties, PointerEvent } from "react";
import { memo } from "react";

import type { CheckView, ColumnView, LineView } from "../api/client";
import type { Place } from "../api/queries";
import { placeKey } from "../api/queries";
import type { Lens } from "../pack/address";
import { figureId } from "../pack/focus";
import { Figure } from "./Figure";
import { PointMark } from "./PointMark";
import type { Marks } from "./useMarks";
import { wasPrinted } from "./widths";

/** What every row of a page has alike. */
interface Sheet {
  columns: ColumnView[];
  /** The columns drawn: from the first to before the last. */
  from: number;
  until: number;
  lens: Lens;
  marks: Marks;
  onSelect: (place: Place) => void;
  onGrip: (event: PointerEvent, line: string) => void;
}

interface Props {
  sheet: Sheet;
  line: LineView;
  index: number;
  checks: CheckView[] | undefined;
  was: LineView | undefined;
  selected: string | null;
  parts: string | null;
  /** Whether it is chosen, dragged or dropped on, as class names. */
  mark: string;
}

const NONE: CheckView[] = [];

function markOf(selected: boolean, part: boolean): "selected" | "part" | "" {
  return selected ? "selected" : part ? "part" : "";
}

/** Cells of columns that are out of view. */
export function Beyond({ columns }: { columns: number }) {
  return columns > 0 ? <td colSpan={columns} aria-hidden="true" /> : null;
}

/** One line of the page, with its figures from one column to before another. Its grip drags it onto a total, or to another place. */
export const Row = memo(function Row(props: Props) {
  const { sheet, line, index, checks, was, selected, parts, mark } = props;
  const { columns, from, until, lens, marks, onSelect, onGrip } = sheet;
  const marked = lens !== "print";
  const classes = [line.kind, line.last ? "closing" : "", marked && line.absent ? "absent" : "", mark];
  return (
    <tr data-line={line.id} aria-rowindex={index + 2} className={classes.filter(Boolean).join(" ")}>
      <th
        scope="row"
        colSpan={line.figured ? 1 : columns.length + 1}
        style={{ "--steps": line.indent } as CSSProperties}
      >
        {marked ? (
          <span
            className="grip"
            aria-hidden="true"
            title="Drag onto a total, or to another place"
            onPointerDown={(event) => onGrip(event, line.id)}
          >
            ⠿
          </span>
        ) : null}
        <span className="label" title={line.label}>
          {line.label}
        </span>
        {marked ? <PointMark says={marks.points.get(placeKey({ line: line.id, column: "" }))} /> : null}
        {marked && line.absent ? <span className="sr-only"> (absent)</span> : null}
      </th>
      {line.figured ? <Beyond columns={from} /> : null}
      {line.figured && line.figures.length === 0
        ? columns.slice(from, until).map((column, n) => (
            // Its figure is on its way; the focus can wait here for it.
            <td
              key={column.id}
              id={figureId({ line: line.id, column: column.id })}
              role="gridcell"
              aria-colindex={from + n + 2}
              aria-busy="true"
              aria-selected={selected === column.id}
              tabIndex={selected === column.id ? 0 : -1}
              className={selected === column.id ? "selected" : ""}
            />
          ))
        : null}
      {line.figures.slice(from, until).map((figure, n) => (
        <Figure
          key={figure.column}
          at={from + n + 2}
          line={line.id}
          figure={figure}
          lens={lens}
          checks={checks?.filter((check) => check.column === figure.column) ?? NONE}
          was={wasPrinted(was?.figures[from + n], figure, lens)}
          point={marks.points.get(placeKey({ line: line.id, column: figure.column })) ?? ""}
          hand={marks.hands.get(placeKey({ line: line.id, column: figure.column })) ?? ""}
          mark={markOf(selected === figure.column, parts === figure.column)}
          onSelect={onSelect}
        />
      ))}
      {line.figured ? <Beyond columns={columns.length - until} /> : null}
    </tr>
  );
});
