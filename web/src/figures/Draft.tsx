import type { ReactNode } from "react";

import type { DraftView, IntakeView, SourceColumn } from "../api/client";
import { Opened } from "../words/Opened";

interface Props {
  draft: DraftView;
  conventions: IntakeView["conventions"];
  onConvention: (column: number, convention: "point" | "comma" | "arabic" | null) => void;
  onSum: (line: number, take: boolean | null) => void;
  onUnit: (unit: Unit | null) => void;
}

export type Unit = (typeof UNITS)[number];
const UNITS = ["ones", "thousands", "lakhs", "millions", "crores", "billions"] as const;

/** One table as it was read: how each column writes numbers, its lines, its sums, its doubts. */
export function Draft({ draft, conventions, onConvention, onSum, onUnit }: Props) {
  const figures = draft.columns.filter((column) => column.role === "figures");
  const where = [draft.source, draft.sheet].filter(Boolean).join(", ");
  return (
    <section aria-label={where} className="rounded-md border border-hairline bg-panel-light">
      <header className="border-b border-hairline px-4 py-2">
        <h2 className="font-semibold">{where}</h2>
        <p>
          Its amounts are in{" "}
          <Opened
            word={{
              name: "unit",
              clause: "unit",
              label: [draft.currency, draft.unit].filter(Boolean).join(" "),
              mark: draft.unit_chosen ? "border-ink border-dotted" : "border-hairline",
            }}
            choices={[{ label: "as the source says" }, ...UNITS.map((label) => ({ label }))]}
            chosen={draft.unit_chosen ? 1 + UNITS.findIndex((each) => each === draft.unit) : 0}
            onChoose={(place) => onUnit(UNITS[place - 1] ?? null)}
          />
          {draft.unit_chosen
            ? ", as you chose."
            : draft.unit_said
              ? `, as “${draft.unit_said}” says.`
              : "; the source does not say."}
        </p>
        {draft.notes.map((note) => (
          <p key={note} className="text-rust">
            {note}
          </p>
        ))}
        {draft.derived.map((said) => (
          <p key={said} className="text-soft">
            {said}
          </p>
        ))}
        {draft.look ? (
          <p className="text-soft">
            Its number codes print {draft.look}.
            {draft.unheld.length > 0 ? ` What no rule can hold yet: ${draft.unheld.join(", ")}.` : ""}
          </p>
        ) : null}
        {draft.offers.map((offer) => (
          <p key={offer.says} className="text-soft">
            {offer.says}: may be chance, so not taken.{" "}
            <Choice onClick={() => onSum(offer.line, true)}>Take it</Choice>
          </p>
        ))}
      </header>
      <Doubts draft={draft} />
      <div className="max-h-[60vh] overflow-auto" role="region" aria-label={`${where}, as read`} tabIndex={0}>
        <table className="w-full tabular-nums">
          <thead className="sticky top-0 bg-panel">
            <tr>
              <th scope="col" className="px-4 py-1.5 text-left font-semibold">
                Line
              </th>
              {figures.map((column) => (
                <th key={column.index} scope="col" className="px-3 py-1.5 text-right font-semibold">
                  {column.heading || `Column ${column.index + 1}`}
                  <How column={column} conventions={conventions} onConvention={onConvention} />
                </th>
              ))}
            </tr>
          </thead>
          <tbody>
            {draft.lines.map((line, row) => (
              <tr key={row} className="border-t border-hairline/60">
                <th
                  scope="row"
                  colSpan={line.heading ? figures.length + 1 : 1}
                  className={`px-4 py-1 text-left ${line.heading || line.sum ? "font-semibold" : "font-normal"}`}
                >
                  <span style={{ paddingInlineStart: line.indent * 12 }}>{line.label}</span>
                  {line.kind ? <Aside>{line.kind}, which no total counts</Aside> : null}
                  {line.hidden ? <Aside>a row the sheet hides</Aside> : null}
                  {line.sum ? (
                    <span className="block text-[12px]/4 font-normal text-soft" title={line.evidence}>
                      = {line.sum} <span className="text-moss">({line.evidence})</span>{" "}
                      <Choice onClick={() => onSum(line.line, false)}>Not a sum</Choice>
                    </span>
                  ) : null}
                  {line.refused ? (
                    <span className="block text-[12px]/4 font-normal text-soft">
                      you said this is no sum <Choice onClick={() => onSum(line.line, null)}>As found</Choice>
                    </span>
                  ) : null}
                </th>
                {line.amounts.map((amount, column) => (
                  <td key={column} className="px-3 py-1 text-right align-top">
                    {amount || <span className="text-soft">missing</span>}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {draft.line_count > draft.lines.length ? (
        <p className="px-4 py-1.5 text-soft">
          and {draft.line_count - draft.lines.length} more lines, which are read too
        </p>
      ) : null}
    </section>
  );
}

function Aside({ children }: { children: ReactNode }) {
  return <span className="block text-[12px]/4 font-normal text-soft">{children}</span>;
}

function Choice({ children, onClick }: { children: string; onClick: () => void }) {
  return (
    <button type="button" className="rounded-sm text-teal underline hover:bg-teal-wash" onClick={onClick}>
      {children}
    </button>
  );
}

function How({
  column,
  conventions,
  onConvention,
}: { column: SourceColumn } & Pick<Props, "conventions" | "onConvention">) {
  if (column.numbers === 0) return <span className="block text-[12px] font-normal text-soft">numbers</span>;
  const now = conventions.find((each) => each.id === column.convention);
  return (
    <span className="block text-[12px] font-normal text-soft">
      <Opened
        word={{
          name: "convention",
          clause: "convention",
          label: now?.label.split(",")[0] ?? "",
          hint: column.reasons.join("; "),
          mark: column.chosen ? "border-ink border-dotted" : "border-hairline",
        }}
        choices={[{ label: "as the cells show" }, ...conventions]}
        chosen={column.chosen ? 1 + conventions.findIndex((each) => each.id === column.convention) : 0}
        onChoose={(place) => onConvention(column.index, conventions[place - 1]?.id ?? null)}
      />
      <span className="block pt-1">
        {column.agree} of {column.numbers} cells agree{column.sample ? `, such as ${column.sample}` : ""}
      </span>
    </span>
  );
}

function Doubts({ draft }: { draft: DraftView }) {
  if (draft.doubt_count === 0) return null;
  return (
    <details open className="border-b border-hairline bg-ochre-wash px-4 py-2">
      <summary className="font-semibold text-ochre">
        {draft.doubt_count === 1 ? "1 cell needs a look" : `${draft.doubt_count} cells need a look`}
      </summary>
      <ul className="max-h-40 overflow-auto">
        {draft.doubts.map((doubt) => (
          <li key={doubt.place}>
            <span className="font-medium">{doubt.place}</span>: “{doubt.text}”, {doubt.why}
          </li>
        ))}
      </ul>
    </details>
  );
}
