import { useQuery } from "@tanstack/react-query";

import type { ComparisonView, IntakeView, PackView } from "../api/client";
import { houseStylesQuery } from "../api/queries";
import { Field } from "../ui/Field";
import { WordMenu } from "../words/WordMenu";
import type { Decide } from "./useIntake";

/** Whose figures these are, and where they go. */
export interface Whose {
  next: boolean;
  entity: string;
  period: string;
  currency: string;
  untied: string[];
  into: Record<string, string | null>;
  restate: boolean;
  style: { name: string; version: number } | null;
}

interface Props {
  intake: IntakeView;
  pack: PackView | null;
  whose: Whose;
  comparison: ComparisonView | null;
  onWhose: (changed: Partial<Whose>) => void;
  decide: (table: number, patch: Decide) => void;
}

/** Where the figures go: into a pack as its next period, or into one of their own. */
export function Destination({ intake, pack, whose, comparison, onWhose, decide }: Props) {
  const ways = pack ? [`the next period of ${pack.entity}`, "a pack of their own"] : ["a pack of their own"];
  const chosen = pack && whose.next ? 0 : ways.length - 1;
  const restated = comparison?.statements.some((each) => each.restated.length > 0) ?? false;
  return (
    <section aria-label="Keep them as" className="space-y-2">
      <h2 className="text-[12px] font-semibold text-soft">Keep them as</h2>
      <p className="sentence leading-8">
        They are{" "}
        <WordMenu
          word={{ name: "what they are", label: ways[chosen] ?? "", clause: "kept as" }}
          choices={ways.map((label) => ({ label }))}
          chosen={chosen}
          onChoose={(place) => onWhose({ next: pack !== null && place === 0 })}
        />
        .
      </p>
      {pack && whose.next ? (
        <Into intake={intake} pack={pack} whose={whose} comparison={comparison} onWhose={onWhose} />
      ) : (
        <>
          <Field
            label="Whose they are"
            value={whose.entity}
            placeholder="an entity"
            onChange={(entity) => onWhose({ entity })}
          />
          <Field
            label="Currency, where none is read"
            value={whose.currency}
            placeholder="ISO 4217 code, or nothing"
            onChange={(currency) => onWhose({ currency })}
          />
          <Style whose={whose} onWhose={onWhose} />
        </>
      )}
      <Field
        label="Their period"
        value={whose.period}
        placeholder="year to 31 March 2027"
        onChange={(period) => onWhose({ period })}
      />
      {comparison?.turned.map((table) => (
        <p key={table} className="rounded-md border border-ochre bg-ochre-wash p-2">
          {intake.drafts[table]?.name} shows costs with another sign than the pack. They are compared and kept
          as the pack keeps them.{" "}
          <button type="button" className="underline" onClick={() => decide(table, { costs: "positive" })}>
            Keep them as they stand
          </button>
        </p>
      ))}
      {restated || whose.restate ? (
        <label className="flex items-center gap-2">
          <input
            type="checkbox"
            className="accent-teal"
            checked={whose.restate}
            onChange={(event) => onWhose({ restate: event.target.checked })}
          />
          Use restated comparatives, not the published ones
        </label>
      ) : null}
      {!whose.next || !pack ? <Ties intake={intake} whose={whose} onWhose={onWhose} /> : null}
    </section>
  );
}

/** The house style a pack of their own begins with, where there are any. */
function Style({ whose, onWhose }: Pick<Props, "whose" | "onWhose">) {
  const { data } = useQuery(houseStylesQuery(null, 0));
  const newest = data?.styles.filter((style) => style.newest) ?? [];
  if (newest.length === 0) return null;
  const choices = [
    { label: "no house style" },
    ...newest.map(({ name, version }) => ({ label: `${name}, version ${version}` })),
  ];
  const chosen = newest.findIndex((each) => each.name === whose.style?.name) + 1;
  return (
    <p className="sentence leading-8">
      Their pack follows{" "}
      <WordMenu
        word={{ name: "the house style", label: choices[chosen]?.label ?? "", clause: "follows" }}
        choices={choices}
        chosen={chosen}
        onChoose={(place) => {
          const style = newest[place - 1];
          onWhose({ style: style ? { name: style.name, version: style.version } : null });
        }}
      />
      .
    </p>
  );
}

type IntoProps = Omit<Props, "pack" | "decide"> & { pack: PackView };

/** Which statement each table goes to. */
function Into({ intake, pack, whose, comparison, onWhose }: IntoProps) {
  return intake.drafts.map((draft, table) => {
    if (draft.left_out) return null;
    const went = comparison?.statements.find((each) => each.table === table)?.statement;
    const now = table in whose.into ? whose.into[table] : went;
    const choices = [...pack.statements.map((each) => ({ label: each.name })), { label: "no statement" }];
    const place = pack.statements.findIndex((each) => each.id === now);
    const decided = table in whose.into || went !== undefined;
    const chosen = place >= 0 ? place : decided ? choices.length - 1 : -1;
    return (
      <p key={`${table} ${draft.source}`} className="sentence leading-8">
        {draft.name} goes to{" "}
        <WordMenu
          word={{
            name: `where ${draft.name} goes`,
            label: choices[chosen]?.label ?? "the statement with most of its lines",
            clause: `into ${table}`,
          }}
          choices={choices}
          chosen={chosen}
          onChoose={(to) => onWhose({ into: { ...whose.into, [table]: pack.statements[to]?.id ?? null } })}
        />
        .
      </p>
    );
  });
}

function Ties({ intake, whose, onWhose }: Pick<Props, "intake" | "whose" | "onWhose">) {
  const { ties } = intake;
  if (ties.length === 0) return null;
  const { untied } = whose;
  return (
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
              onWhose({
                untied: event.target.checked ? untied.filter((id) => id !== tie.id) : [...untied, tie.id],
              })
            }
          />
          <span>
            {tie.says} <span className="text-moss">({tie.evidence})</span>
          </span>
        </label>
      ))}
    </fieldset>
  );
}
