import type { ComparisonView } from "../api/client";
import type { Decide } from "./useIntake";

const FATES = {
  new: { mark: "+", said: "new" },
  gone: { mark: "−", said: "gone" },
  kept: { mark: "", said: "" },
};

interface Props {
  comparison: ComparisonView;
  decide: (table: number, patch: Decide) => void;
}

/** What the new figures bring to the last period's layout: lines new, gone, renamed and moved. */
export function Comparison({ comparison, decide }: Props) {
  return (
    <section aria-label="Comparison" className="rounded-md border border-teal bg-panel-light">
      <h2 className="border-b border-hairline px-4 py-2 font-semibold">Compared with the last period</h2>
      {comparison.left_out.length > 0 ? (
        <p className="px-4 py-2 text-rust">
          With no new figures, so left out of the next period: {comparison.left_out.join(", ")}.
        </p>
      ) : null}
      {comparison.statements.map((each) => (
        <div key={each.statement} className="px-4 py-2">
          <h3 className="font-semibold">
            {each.name}{" "}
            <span className="font-normal text-soft">
              {each.new === 0 ? "no new line" : each.new === 1 ? "1 new line" : `${each.new} new lines`},{" "}
              {each.gone === 0 ? "none gone" : `${each.gone} gone`}
            </span>
          </h3>
          {each.renamed.map((renamed) => (
            <p key={renamed.says} className="flex flex-wrap items-baseline gap-x-2">
              {renamed.says}, as {renamed.evidence}.
              <button
                type="button"
                className="text-teal underline"
                onClick={() => decide(each.table, renamed.decide)}
              >
                It is
              </button>
            </p>
          ))}
          {each.restated.map((restated) => (
            <p key={restated.label} className="text-rust">
              {restated.label}: published {restated.published}, now stated {restated.restated}.
            </p>
          ))}
          <div
            className="max-h-[50vh] overflow-auto"
            role="region"
            aria-label={`${each.name}, compared`}
            tabIndex={0}
          >
            <table className="w-full tabular-nums">
              <thead className="sticky top-0 bg-panel">
                <tr>
                  {["Line", each.then, each.now, "Moved by"].map((head, column) => (
                    <th
                      key={head}
                      scope="col"
                      className={`px-2 py-1 font-semibold ${column ? "text-right" : "text-left"}`}
                    >
                      {head}
                    </th>
                  ))}
                </tr>
              </thead>
              <tbody>
                {each.lines.map((line, row) => (
                  <tr key={row} className="border-t border-hairline/60">
                    <th scope="row" className="px-2 py-0.5 text-left font-normal">
                      {line.label}
                      {line.fate === "kept" ? null : (
                        <span
                          className={`ml-2 rounded-sm px-1 text-[12px] font-semibold ${line.fate === "new" ? "bg-teal-wash text-teal" : "bg-rust-wash text-rust"}`}
                        >
                          {FATES[line.fate].mark} {FATES[line.fate].said}
                        </span>
                      )}
                    </th>
                    {[line.was, line.now, line.moved].map((text, column) => (
                      <td key={column} className="px-2 py-0.5 text-right">
                        {text}
                      </td>
                    ))}
                  </tr>
                ))}
              </tbody>
            </table>
          </div>
        </div>
      ))}
    </section>
  );
}
