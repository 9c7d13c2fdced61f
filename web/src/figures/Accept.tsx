import { useState } from "react";

import type { Acceptance, DraftView, IntakeView } from "../api/client";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";

type Tie = NonNullable<IntakeView["ties"]>[number];

interface Props {
  drafts: DraftView[];
  ties: Tie[];
  onAccept: (acceptance: Acceptance) => void;
}

/** What to keep, what to call it, and whose it is. */
export function Accept({ drafts, ties, onAccept }: Props) {
  const found = [...new Set(drafts.flatMap((draft) => (draft.currency ? [draft.currency] : [])))];
  const [entity, setEntity] = useState("");
  const [period, setPeriod] = useState("");
  const [currency, setCurrency] = useState(found.length === 1 ? (found[0] ?? "") : "");
  const [names, setNames] = useState(drafts.map((draft) => draft.name));
  const [kept, setKept] = useState(drafts.map(() => true));
  const [untied, setUntied] = useState<string[]>([]);
  const [looks, setLooks] = useState(drafts.map(() => true));
  const statements = names.flatMap((name, table) =>
    kept[table] ? [{ table, name: name.trim(), look: looks[table] ?? true }] : [],
  );
  const ready =
    entity.trim() && period.trim() && statements.length > 0 && statements.every(({ name }) => name);
  return (
    <form
      className="space-y-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (!ready) return;
        const code = currency.trim().toUpperCase() || null;
        onAccept({
          entity: entity.trim(),
          period: period.trim(),
          currency: code,
          statements,
          without_ties: untied,
        });
      }}
    >
      <h2 className="font-semibold">Keep as a pack</h2>
      <Field label="Entity" value={entity} onChange={setEntity} placeholder="whose statements they are" />
      <Field label="Period" value={period} onChange={setPeriod} placeholder="year to 31 March 2026" />
      <Field
        label="Currency"
        value={currency}
        onChange={setCurrency}
        placeholder="ISO 4217 code, or nothing"
      />
      <fieldset>
        <legend className="mb-1 text-[12px] font-semibold text-soft">Statements</legend>
        {drafts.map((draft, table) => (
          <div key={`${table} ${draft.source}`} className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              className="accent-teal"
              aria-label={`Keep ${draft.name}`}
              checked={kept[table] ?? false}
              onChange={(event) => setKept(kept.map((was, n) => (n === table ? event.target.checked : was)))}
            />
            <input
              aria-label={`Name of ${draft.name}`}
              value={names[table]}
              maxLength={200}
              className="min-w-0 flex-1 border-b border-hairline bg-paper px-1"
              onChange={(event) => setNames(names.map((was, n) => (n === table ? event.target.value : was)))}
            />
            {draft.look ? (
              <label className="flex items-center gap-1 text-[12px] whitespace-nowrap" title={draft.look}>
                <input
                  type="checkbox"
                  className="accent-teal"
                  checked={looks[table] ?? true}
                  onChange={(event) =>
                    setLooks(looks.map((was, n) => (n === table ? event.target.checked : was)))
                  }
                />
                its look
              </label>
            ) : null}
          </div>
        ))}
      </fieldset>
      {ties.length > 0 ? (
        <fieldset>
          <legend className="mb-1 text-[12px] font-semibold text-soft">
            Ties: figures that have to be the same
          </legend>
          {ties.map((tie) => (
            <label key={tie.id} className="flex items-start gap-2 py-0.5">
              <input
                type="checkbox"
                className="mt-1 accent-teal"
                checked={!untied.includes(tie.id)}
                onChange={(event) =>
                  setUntied(event.target.checked ? untied.filter((id) => id !== tie.id) : [...untied, tie.id])
                }
              />
              <span>
                {tie.says} <span className="text-moss">({tie.evidence})</span>
              </span>
            </label>
          ))}
        </fieldset>
      ) : null}
      <Button main type="submit" disabled={!ready} className="disabled:opacity-60">
        Keep and open
      </Button>
      {ready ? null : <p className="text-soft">Say whose figures these are and what period they cover.</p>}
    </form>
  );
}
