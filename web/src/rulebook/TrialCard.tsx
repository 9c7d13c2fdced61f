import type { ChangedView } from "../api/client";
import type { Trial } from "../api/trials";
import { useChanges } from "../api/trials";
import { Button } from "../ui/Button";

interface Props {
  pack: string;
  statement: string;
  trial: Trial;
  at: number | null;
  onSee: (changed: ChangedView, place: number) => void;
  onKeep: () => void;
  onDrop: () => void;
}

/** A change on trial: how many figures and gaps it would change, a list to step through, keep or drop. */
export function TrialCard({ pack, statement, trial, at, onSee, onKeep, onDrop }: Props) {
  const { view } = trial;
  const { figures, changed: list } = useChanges(pack, statement, trial) ?? { figures: null, changed: [] };
  const change = figures === null ? "…" : figures === 1 ? "1 figure changes" : `${figures} figures change`;
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
      <ol className="mt-1 max-h-40 overflow-auto">
        {list.map((changed, place) => (
          <li
            className="[content-visibility:auto] [contain-intrinsic-height:auto_42px]"
            key={`${changed.statement} ${changed.line} ${changed.column}`}
          >
            <button
              type="button"
              aria-current={place === at}
              className="w-full rounded-sm px-1 text-left hover:bg-teal-faint aria-[current=true]:bg-teal-wash"
              onClick={() => onSee(changed, place)}
            >
              {changed.label}: <span className="font-serif">{changed.was}</span> becomes{" "}
              <span className="font-serif">{changed.now}</span>
            </button>
          </li>
        ))}
      </ol>
      {figures !== null && figures > list.length ? (
        <p className="text-soft">and {figures - list.length} more</p>
      ) : null}
      <div className="mt-2 flex gap-2">
        <Button main shortcut="k" className="px-2! py-0.5!" onClick={onKeep}>
          Keep it
        </Button>
        <Button shortcut="d" className="px-2! py-0.5!" onClick={onDrop}>
          Drop it
        </Button>
      </div>
    </section>
  );
}
