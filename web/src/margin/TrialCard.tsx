import type { ChangedView } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";
import { showFigure } from "../pack/focus";
import type { Trial } from "../pack/trials";
import { useChanges } from "../pack/trials";
import { Button } from "../ui/Button";

/** A change on trial: what matters of what it would change first, then the rest by rule; keep or drop. */
export function TrialCard({ trial }: { trial: Trial }) {
  const { pack, statement } = usePack();
  const { keepTrial, dropTrial } = usePackControls();
  const { view } = trial;
  const changes = useChanges(pack.id, statement, trial);
  const figures = changes?.figures;
  const change =
    figures === undefined ? "…" : figures === 1 ? "1 figure changes" : `${figures} figures change`;
  return (
    <section aria-label="On trial" className="rounded-md border border-teal bg-paper p-3">
      <h2 className="font-semibold">On trial: {view.says}</h2>
      <p>
        {change},{" "}
        <span className={view.new_gaps > 0 ? "font-semibold text-rust" : ""}>
          {view.new_gaps === 1 ? "1 new gap" : `${view.new_gaps} new gaps`}
        </span>
        {view.closed_gaps > 0 ? `, ${view.closed_gaps} fewer` : ""}.
      </p>
      {changes ? (
        <div className="mt-1 max-h-56 overflow-auto">
          {changes.matters.map(({ says, figures: count, changed }) => (
            <Group key={says} says={says} count={count} changed={changed} matters />
          ))}
          {changes.rest.map(({ says, figures: count, changed }) => (
            <Group key={says} says={says} count={count} changed={changed} />
          ))}
        </div>
      ) : null}
      <div className="mt-2 flex gap-2">
        <Button main shortcut="k" className="px-2! py-0.5!" onClick={keepTrial}>
          Keep it
        </Button>
        <Button shortcut="d" className="px-2! py-0.5!" onClick={dropTrial}>
          Drop it
        </Button>
      </div>
    </section>
  );
}

interface GroupProps {
  says: string;
  count: number;
  changed: ChangedView[];
  matters?: boolean;
}

/** Figures that change for one reason: a few of them, to step through. */
function Group({ says, count, changed, matters = false }: GroupProps) {
  const { address } = usePack();
  const { go } = usePackControls();
  return (
    <section className="mt-1">
      <h3
        className={`flex justify-between gap-2 text-[12.5px] ${matters ? "font-semibold text-rust" : "text-soft"}`}
      >
        {says} <span>{count}</span>
      </h3>
      <ol>
        {changed.map((each) => (
          <li key={`${each.statement}:${each.line}:${each.column}`}>
            <button
              type="button"
              aria-current={
                address.statement === each.statement &&
                address.place?.line === each.line &&
                address.place.column === each.column
              }
              className="w-full rounded-sm px-1 text-left hover:bg-teal-faint aria-[current=true]:bg-teal-wash"
              onClick={() => {
                const place = { line: each.line, column: each.column };
                go({ screen: "page", statement: each.statement, place });
                showFigure(place);
              }}
            >
              {each.label}: <span className="font-serif">{each.was}</span> becomes{" "}
              <span className="font-serif">{each.now}</span>
            </button>
          </li>
        ))}
      </ol>
      {count > changed.length ? <p className="px-1 text-soft">and {count - changed.length} more</p> : null}
    </section>
  );
}
