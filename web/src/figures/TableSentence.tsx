import { useQuery } from "@tanstack/react-query";

import type { IntakeView } from "../api/client";
import { api, taken } from "../api/client";
import type { Selected } from "./OpenTable";
import { ReadingSentence } from "./ReadingSentence";
import { Why } from "./Why";
import type { Decide } from "./useIntake";

interface Props {
  intake: IntakeView;
  table: number;
  selected: Selected;
  decide: (patch: Decide) => void;
}

/** How the row in hand is read, or the column, in words that decide it otherwise; and every column below. */
export function TableSentence({ intake, table, selected, decide }: Props) {
  const row = selected && "row" in selected ? selected.row : null;
  const column = selected && "column" in selected ? selected.column : null;
  const draft = intake.drafts[table];
  const { data } = useQuery({
    // The intake is another object after every decision.
    queryKey: ["row", intake.id, table, row, intake.decisions],
    queryFn: () =>
      taken(
        api.GET("/api/intakes/{intake}/tables/{table}/rows/{row}/words", {
          params: { path: { intake: intake.id, table, row: row ?? 0 } },
        }),
      ),
    enabled: row !== null,
    placeholderData: (last) => last,
  });
  const rest = draft?.columns.filter((each) => each.index !== column) ?? [];
  const chosen = draft?.columns.find((each) => each.index === column);
  return (
    <>
      {row !== null && data ? (
        <section aria-label="The selected row">
          <h2 className="text-[12px] font-semibold text-soft">The selected row</h2>
          <ReadingSentence key={row} told={data} decide={decide} />
          <Why why={draft?.rows.find((each) => each.row === row)?.why ?? []} />
        </section>
      ) : null}
      {chosen ? (
        <section aria-label="The selected column">
          <h2 className="text-[12px] font-semibold text-soft">The selected column</h2>
          <ReadingSentence key={chosen.index} told={chosen.sentence} decide={decide} />
          <Why why={chosen.why} />
        </section>
      ) : null}
      {rest.length > 0 ? (
        <details>
          <summary className="cursor-pointer text-[12px] font-semibold text-soft">
            {chosen ? "Other columns" : "Columns"}
          </summary>
          {rest.slice(0, 40).map((each) => (
            <ReadingSentence key={each.index} told={each.sentence} decide={decide} />
          ))}
        </details>
      ) : null}
    </>
  );
}
