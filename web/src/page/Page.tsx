import "./page.css";

import type { CSSProperties } from "react";
import { memo, useEffect, useMemo, useRef, useState } from "react";

import type { CheckView, ProofView } from "../api/client";
import type { Place, Where } from "../api/queries";
import { useRows } from "../api/queries";
import type { Selection } from "../pack/SelectedFigure";
import { useSelection, useSelectionControls } from "../pack/SelectedFigure";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Lens } from "../pack/address";
import { Brackets } from "./Brackets";
import type { Drop } from "./dragging";
import { useDragging } from "./dragging";
import type { Marks } from "./useMarks";
import { useMarks } from "./useMarks";
import { copyFigures } from "./copying";
import { Beyond, Row } from "./Row";
import { useOverflow } from "./useOverflow";
import { usePageKeys } from "./usePageKeys";
import { ROW, useWindow } from "./useWindow";
import { widthsOf } from "./widths";

// On a wide screen the page is larger. Rows of a windowed one have a height that is reckoned with.
const WIDE = "min-[106rem]:max-w-[1040px] min-[106rem]:text-[16.5px]";

interface Props {
  before: ProofView | null;
  onMove: (by: 1 | -1) => void;
  onDrop: (line: string, drop: Drop) => void;
  onOpen: () => void;
}

/** The statement on paper: what its readers will see, with pencil work for the lens in use. */
export function Page(props: Props) {
  const { where, address, statement } = usePack();
  const { proof, place, chosen } = useSelection();
  const marks = useMarks(statement);
  return <Paper {...props} {...{ where, proof, place, chosen, marks }} lens={address.lens} />;
}

interface PaperProps extends Props, Pick<Selection, "proof" | "place" | "chosen"> {
  where: Where;
  lens: Lens;
  marks: Marks;
}

/** The paper itself: drawn again for another page, figure or lens, not whenever the desk is. */
const Paper = memo(function Paper(props: PaperProps) {
  const { where, proof, before, place, chosen, lens, marks, onMove, onDrop, onOpen } = props;
  const { select } = useSelectionControls();
  const { see } = usePackControls();
  const desk = useRef<HTMLDivElement>(null);
  const checks = useMemo(() => byFigure(proof.checks), [proof.checks]);
  // Beside what a trial prints stands what the page printed before.
  const was = useMemo(() => before && new Map(before.lines.map((line) => [line.id, line])), [before]);
  const parts = useMemo(() => partsOf(proof, place), [proof, place]);
  const hang = useMemo(
    () => Math.max(0.6, ...proof.lines.flatMap((l) => l.figures.map((f) => f.hang.length * 0.65))),
    [proof.lines],
  );
  const widths = useMemo(() => widthsOf(proof, lens, hang, was), [proof, lens, hang, was]);
  const { drawn, columns, windowed } = useWindow(desk, proof, place, widths);
  const [from, until] = columns;
  const [first, last] = drawn;
  useRows(where, proof, drawn);
  const kept = useMemo(() => ({ ...where, trial: null }), [where]);
  useRows(kept, before, drawn);
  useEffect(() => {
    see([first, last]);
  }, [first, last, see]);
  const { dragged, target, onGrip } = useDragging(proof.lines, onDrop);
  const sheet = useMemo(
    () => ({ columns: proof.columns, from, until, lens, marks, onSelect: select, onGrip }),
    [proof.columns, from, until, lens, marks, select, onGrip],
  );
  const beyond = useOverflow(desk);
  const [copied, setCopied] = useState("");
  useEffect(() => {
    const gone = setTimeout(() => setCopied(""), 2500);
    return () => clearTimeout(gone);
  }, [copied]);

  const onKeyDown = usePageKeys({ proof, place, onMove, onOpen });
  const style = { "--hang": `${hang}em`, "--row": `${ROW}px` } as CSSProperties;
  return (
    <main className="relative min-h-0 min-w-0" aria-label="Page">
      <div ref={desk} className="isolate h-full overflow-auto p-2 xl:p-4 print:overflow-visible print:p-0">
        <div
          className={`relative mx-auto max-w-[860px] min-w-max border border-hairline bg-paper pt-5 pr-3 pb-8 pl-[42px] xl:pr-6 xl:pl-[52px] font-serif text-[14.5px] shadow-[0_1px_2px_rgb(20_38_43/0.08)] print:max-w-none print:border-0 print:p-0 print:shadow-none lens-${lens} ${windowed ? "" : WIDE}`}
          style={style}
        >
          <header className="mb-1 border-b border-ink pb-2 pl-2">
            <p className="hidden text-[13px] print:block">{proof.entity}</p>
            <h2 className="text-[17px] font-semibold">{proof.title}</h2>
            <div className="flex justify-between gap-6 text-[13.5px] text-soft">
              <span>{proof.period}</span>
              <Caption proof={proof} lens={lens} />
            </div>
          </header>
          <div className="relative">
            {lens === "print" ? null : (
              <Brackets proof={proof} place={place} first={first} last={last} windowed={windowed} />
            )}
            {/* A grid, so that arrows move between figures and one figure is in the tab order. */}
            <table
              className={windowed ? "statement windowed" : "statement"}
              role="grid"
              tabIndex={-1}
              aria-label={proof.title}
              aria-rowcount={proof.lines.length + 1}
              aria-colcount={proof.columns.length + 1}
              style={windowed ? { width: widths.columns.reduce((a, b) => a + b, widths.label) } : undefined}
              onKeyDown={onKeyDown}
              onCopy={(event) => {
                if (place) setCopied(copyFigures(event, { where, proof, place, chosen }));
              }}
            >
              {windowed ? (
                <colgroup>
                  <col style={{ width: widths.label }} />
                  {widths.columns.map((width, n) => (
                    <col key={proof.columns[n]?.id} style={{ width }} />
                  ))}
                </colgroup>
              ) : null}
              <thead>
                <tr>
                  <td />
                  <Beyond columns={from} />
                  {proof.columns.slice(from, until).map((column, n) => (
                    <th key={column.id} scope="col" aria-colindex={from + n + 2}>
                      <bdi>{column.heading}</bdi>
                    </th>
                  ))}
                  <Beyond columns={proof.columns.length - until} />
                </tr>
              </thead>
              <tbody>
                <Spacer rows={first} />
                {proof.lines.slice(first, last).map((line, n) => (
                  <Row
                    key={line.id}
                    sheet={sheet}
                    line={line}
                    index={first + n}
                    checks={checks.get(line.id)}
                    was={was?.get(line.id)}
                    selected={place?.line === line.id ? place.column : null}
                    parts={parts.lines.has(line.id) ? parts.column : null}
                    mark={[
                      chosen.has(line.id) ? "chosen" : "",
                      dragged === line.id ? "dragged" : "",
                      target?.line === line.id ? `drop-${target.how}` : "",
                    ].join(" ")}
                  />
                ))}
                <Spacer rows={proof.lines.length - last} />
              </tbody>
            </table>
          </div>
        </div>
      </div>
      <p
        role="status"
        className={`absolute bottom-3 left-1/2 -translate-x-1/2 rounded-md bg-ink px-3 py-1 text-[13px] text-white print:hidden ${copied ? "" : "sr-only"}`}
      >
        {copied}
      </p>
      {beyond ? (
        <p className="pointer-events-none absolute top-24 right-0 rounded-l-md border border-r-0 border-hairline bg-panel px-1.5 py-1 text-[12px] text-soft shadow-sm print:hidden">
          more columns <span aria-hidden="true">→</span>
        </p>
      ) : null}
    </main>
  );
});

/** The height of rows that are out of view. */
function Spacer({ rows }: { rows: number }) {
  return rows > 0 ? (
    <tr aria-hidden="true">
      <td style={{ height: rows * ROW }} />
    </tr>
  ) : null;
}

/** Gaps and breaks to flag, by line. */
function byFigure(checks: CheckView[]): Map<string, CheckView[]> {
  const found = new Map<string, CheckView[]>();
  for (const check of checks) {
    if (check.status !== "gap" && check.status !== "break") continue;
    found.set(check.line, [...(found.get(check.line) ?? []), check]);
  }
  return found;
}

/** The lines that add to the selected total, and its column. */
function partsOf(proof: ProofView, place: Place | null): { lines: Set<string>; column: string | null } {
  const line = proof.lines.find((each) => each.id === place?.line);
  return { lines: new Set(line?.parts ?? []), column: place?.column ?? null };
}

function Caption({ proof, lens }: { proof: ProofView; lens: Lens }) {
  const said = [proof.caption, ...proof.exceptions].filter(Boolean).join("; ");
  if (lens !== "exact") return <span data-caption>{said}</span>;
  return (
    <>
      <span className="screen-only font-sans">exact amounts</span>
      <span className="print-only" data-caption>
        {said}
      </span>
    </>
  );
}
