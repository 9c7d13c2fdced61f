import "./page.css";

import type { CSSProperties, KeyboardEvent } from "react";
import { useMemo } from "react";

import type { CheckView, FigureCell, LineView, ProofView } from "../api/client";
import type { Place } from "../api/queries";
import type { Lens } from "../desk/address";
import { Brackets } from "./Brackets";
import { Figure } from "./Figure";

interface Props {
  proof: ProofView;
  place: Place | null;
  lens: Lens;
  onSelect: (place: Place) => void;
  onOpen: () => void;
}

/** The statement on paper: what its readers will see, with pencil work for the lens in use. */
export function Page({ proof, place, lens, onSelect, onOpen }: Props) {
  const checks = useMemo(() => byFigure(proof.checks), [proof.checks]);
  const parts = useMemo(() => partsOf(proof, place), [proof, place]);
  const figured = useMemo(() => proof.lines.filter((line) => line.figures.length > 0), [proof.lines]);

  function onKeyDown(event: KeyboardEvent) {
    if (!place || event.ctrlKey || event.metaKey || event.altKey) return;
    const row = figured.findIndex((line) => line.id === place.line);
    const column = proof.columns.findIndex((each) => each.id === place.column);
    const to: Partial<Record<string, [number, number]>> = {
      ArrowUp: [row - 1, column],
      ArrowDown: [row + 1, column],
      ArrowLeft: [row, column - 1],
      ArrowRight: [row, column + 1],
      Home: [row, 0],
      End: [row, proof.columns.length - 1],
    };
    const next = to[event.key];
    if (next) {
      event.preventDefault();
      const line = figured[Math.min(Math.max(next[0], 0), figured.length - 1)];
      const at = proof.columns[Math.min(Math.max(next[1], 0), proof.columns.length - 1)];
      if (line && at) {
        onSelect({ line: line.id, column: at.id });
        const figure = document.getElementById(`figure-${line.id}-${at.id}`);
        figure?.focus({ preventScroll: true });
        figure?.scrollIntoView({ block: "nearest", inline: "nearest" });
      }
    } else if (event.key === "Enter") {
      event.preventDefault();
      onOpen();
    }
  }

  const hang = Math.max(0.6, ...proof.lines.flatMap((l) => l.figures.map((f) => f.hang.length * 0.65)));
  const style = { "--hang": `${hang}em` } as CSSProperties;
  return (
    <main className="overflow-auto p-2 xl:p-4 print:overflow-visible print:p-0" aria-label="Page">
      <div
        className={`relative mx-auto max-w-[860px] min-w-max border border-hairline bg-paper pt-5 pr-3 pb-8 pl-[42px] xl:pr-6 xl:pl-[52px] font-serif text-[14.5px] shadow-[0_1px_2px_rgb(20_38_43/0.08)] print:max-w-none print:border-0 print:p-0 print:shadow-none lens-${lens}`}
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
          {lens === "print" ? null : <Brackets proof={proof} place={place} />}
          {/* A grid, so that arrows move between figures and one figure is in the tab order. */}
          <table className="statement" role="grid" aria-label={proof.title} onKeyDown={onKeyDown}>
            <thead>
              <tr>
                <td />
                {proof.columns.map((column) => (
                  <th key={column.id} scope="col">
                    <span>{column.label}</span>
                  </th>
                ))}
              </tr>
            </thead>
            <tbody>
              {proof.lines.map((line) => (
                <tr
                  key={line.id}
                  data-line={line.id}
                  className={line.last ? `${line.kind} closing` : line.kind}
                >
                  <th scope="row" colSpan={line.figures.length ? 1 : proof.columns.length + 1}>
                    <span className="label">{line.label}</span>
                  </th>
                  {line.figures.map((figure) => (
                    <Figure
                      key={figure.column}
                      line={line.id}
                      figure={figure}
                      lens={lens}
                      checks={checks.get(`${line.id} ${figure.column}`) ?? NONE}
                      selected={isAt(place, line, figure)}
                      part={parts.has(`${line.id} ${figure.column}`)}
                      onSelect={onSelect}
                    />
                  ))}
                </tr>
              ))}
            </tbody>
          </table>
        </div>
      </div>
    </main>
  );
}

const NONE: CheckView[] = [];

function isAt(place: Place | null, line: LineView, figure: FigureCell): boolean {
  return place?.line === line.id && place.column === figure.column;
}

function byFigure(checks: CheckView[]): Map<string, CheckView[]> {
  const found = new Map<string, CheckView[]>();
  for (const check of checks) {
    if (check.status !== "gap" && check.status !== "break") continue;
    const key = `${check.line} ${check.column}`;
    found.set(key, [...(found.get(key) ?? []), check]);
  }
  return found;
}

/** The figures that add to the selected total. */
function partsOf(proof: ProofView, place: Place | null): Set<string> {
  const sum = proof.checks.find(
    (check) => check.way === "down" && check.line === place?.line && check.column === place.column,
  );
  return new Set(sum?.parts.map((part) => part.join(" ")) ?? []);
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
