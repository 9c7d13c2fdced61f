import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { ComparisonView, DraftView, Forward, PackName } from "../api/client";
import { packQuery } from "../api/queries";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";

interface Props {
  drafts: DraftView[];
  packs: PackName[];
  open: string | null;
  comparison: ComparisonView | null;
  onCompare: (forward: Forward) => void;
  onRoll: (forward: Forward) => void;
}

/** Brings the figures into a pack's layout, as its next period. */
export function Forwarding({ drafts, packs, open, comparison, onCompare, onRoll }: Props) {
  const [pack, setPack] = useState(open ?? packs[0]?.id ?? "");
  const [period, setPeriod] = useState("");
  const [into, setInto] = useState<Record<string, string | null>>({});
  const [restate, setRestate] = useState(false);
  const statements = useQuery({ ...packQuery(pack), enabled: pack !== "" }).data?.statements ?? [];
  const forward: Forward = { pack, period: period.trim() || "Next period", into, restate };
  const went = (table: number) => comparison?.statements.find((each) => each.table === table)?.statement;
  const restated = comparison?.statements.some((each) => each.restated.length > 0) ?? false;
  return (
    <form
      className="space-y-3 border-t border-hairline pt-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (comparison && period.trim()) onRoll(forward);
      }}
    >
      <h2 className="font-semibold">Or bring into a pack, as its next period</h2>
      <label className="block text-[12px] font-semibold text-soft">
        Pack
        <select
          value={pack}
          className="mt-0.5 block w-full border-b border-teal bg-paper px-1 py-0.5 text-[13.5px] font-normal text-ink"
          onChange={(event) => {
            setPack(event.target.value);
            setInto({});
          }}
        >
          {packs.map((each) => (
            <option key={each.id} value={each.id}>
              {each.entity}, {each.period}
            </option>
          ))}
        </select>
      </label>
      {drafts.map((draft, table) => (
        <label key={`${table} ${draft.source}`} className="block text-[12px] font-semibold text-soft">
          {draft.name} goes to
          <select
            value={into[table] ?? (table in into ? "" : (went(table) ?? "best"))}
            className="mt-0.5 block w-full border-b border-teal bg-paper px-1 py-0.5 text-[13.5px] font-normal text-ink"
            onChange={(event) => setInto({ ...into, [table]: event.target.value || null })}
          >
            {went(table) || table in into ? null : (
              <option value="best">the statement with most of its lines</option>
            )}
            <option value="">no statement</option>
            {statements.map((each) => (
              <option key={each.id} value={each.id}>
                {each.name}
              </option>
            ))}
          </select>
        </label>
      ))}
      <Field label="New period" value={period} onChange={setPeriod} placeholder="year to 31 March 2027" />
      {restated || restate ? (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="accent-teal"
            checked={restate}
            onChange={(event) => setRestate(event.target.checked)}
          />
          Take restated comparatives, not the published ones
        </label>
      ) : null}
      <div className="flex flex-wrap gap-2">
        <Button onClick={() => onCompare(forward)}>Compare</Button>
        <Button main type="submit" disabled={!comparison || !period.trim()} className="disabled:opacity-60">
          Keep the next period
        </Button>
      </div>
      <p className="text-soft">
        Lines are matched by code, then label. Last period’s figures stand beside the new ones, held as they
        were published.
      </p>
    </form>
  );
}
