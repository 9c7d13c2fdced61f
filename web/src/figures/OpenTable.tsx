import type { KeyboardEvent } from "react";

import type { DraftView } from "../api/client";
import { ReadingSentence } from "./ReadingSentence";
import type { Decide } from "./useIntake";

export type Selected = { row: number } | { column: number } | null;

interface Props {
  draft: DraftView;
  selected: Selected;
  asked: ReadonlySet<string>;
  onTake: (selected: Selected) => void;
  decide: (patch: Decide) => void;
}

/** One table as a sentence, and beside every cell as it stands what was read. */
export function OpenTable({ draft, selected, asked, onTake, decide }: Props) {
  return (
    <section
      aria-label={[draft.source, draft.sheet].filter(Boolean).join(", ")}
      className="rounded-md border border-hairline bg-paper p-4"
    >
      <ReadingSentence told={draft.sentence} decide={decide} />
      {draft.left_out ? null : <Rows draft={draft} selected={selected} asked={asked} onTake={onTake} />}
    </section>
  );
}

function Rows({ draft, selected, asked, onTake }: Omit<Props, "decide">) {
  const figures = draft.columns.filter((column) => column.role === "figures");
  const rows = draft.rows.map((each) => each.row);
  const at = selected && "row" in selected ? selected.row : rows[0];
  function onKeyDown(event: KeyboardEvent) {
    const step = { ArrowDown: 1, ArrowUp: -1 }[event.key];
    if (step === undefined) return;
    const next = rows[rows.indexOf(at ?? 0) + step];
    if (next === undefined) return;
    event.preventDefault();
    onTake({ row: next });
    document.getElementById(`row:${next}`)?.focus();
  }
  return (
    <div className="overflow-x-auto pt-2">
      <table className="source-table w-full tabular-nums" aria-label={`What was read of ${draft.name}`}>
        <thead>
          <tr>
            <th scope="col" className="text-left">
              Line
            </th>
            {figures.map((column) => (
              <th key={column.index} scope="colgroup" colSpan={3} className="text-right">
                <button
                  type="button"
                  className="hover:underline aria-pressed:underline"
                  aria-pressed={selected !== null && "column" in selected && selected.column === column.index}
                  onClick={() => onTake({ column: column.index })}
                >
                  {column.heading || `Column ${column.letters}`}
                </button>
              </th>
            ))}
          </tr>
          <tr className="text-soft">
            <td />
            {figures.flatMap((column) => [
              <td key={`${column.index} cell`}>cell</td>,
              <td key={`${column.index} stands`} className="text-right">
                as it stands
              </td>,
              <td key={`${column.index} read`} className="text-right">
                read, in ones
              </td>,
            ])}
          </tr>
        </thead>
        {/* Arrows go from row to row, as in any grid. */}
        {/* eslint-disable-next-line jsx-a11y/no-noninteractive-element-interactions */}
        <tbody onKeyDown={onKeyDown}>
          {draft.rows.map((row) => (
            <Row
              key={row.row}
              row={row}
              selected={selected !== null && "row" in selected && selected.row === row.row}
              tabbed={row.row === at}
              asked={asked}
              onTake={onTake}
            />
          ))}
        </tbody>
      </table>
      {draft.row_count > draft.rows.length ? (
        <p className="pt-2 text-soft">
          The first {draft.rows.length} of {draft.row_count} rows; all of them are kept.
        </p>
      ) : null}
    </div>
  );
}

interface RowProps {
  row: DraftView["rows"][number];
  selected: boolean;
  tabbed: boolean;
  asked: ReadonlySet<string>;
  onTake: (selected: Selected) => void;
}

function Row({ row, selected, tabbed, asked, onTake }: RowProps) {
  const said = [row.kind, row.hidden ? "hidden in the source" : "", row.role === "left_out" ? "left out" : ""]
    .filter(Boolean)
    .join(", ");
  return (
    <tr
      id={`row:${row.row}`}
      // Rows are gone through with the arrows, and the one in hand is said in the margin.
      tabIndex={tabbed ? 0 : -1}
      aria-current={selected ? "true" : undefined}
      data-total={row.total || undefined}
      data-role={row.role}
      className="source-row"
      onFocus={() => onTake({ row: row.row })}
      onClick={() => onTake({ row: row.row })}
    >
      <th scope="row" className="text-left font-normal" style={{ paddingLeft: 8 + row.indent * 14 }}>
        {row.label}
        {said ? <span className="ml-2 text-[12px] text-soft">{said}</span> : null}
      </th>
      {row.cells.flatMap((cell) => {
        const open = asked.has(cell.place);
        return [
          <td key={`${cell.place} cell`} className="place">
            {cell.place}
          </td>,
          <td key={`${cell.place} stands`} className="stands" data-asked={open || undefined}>
            <bdi>{cell.stands}</bdi>
          </td>,
          <td key={`${cell.place} read`} className="text-right">
            <bdi>{cell.read || (cell.stands && row.role === "line" ? "missing" : "")}</bdi>
            {open ? " ?" : cell.decided ? " ✓" : ""}
          </td>,
        ];
      })}
    </tr>
  );
}
