import { usePack } from "../pack/OpenPack";
import { usePointWalk } from "./usePointWalk";

/** How many points are not settled; it leads to the first that waits, or to the first at all. */
export function PointsBead() {
  const { pack } = usePack();
  const { unsettled, waiting, visit } = usePointWalk();
  const first = waiting[0] ?? unsettled[0];
  if (!pack.in_review || !first) return null;
  const said =
    unsettled.length === 1 ? "1 point is not settled" : `${unsettled.length} points are not settled`;
  return (
    <div className="flex shrink-0 items-center gap-1 py-1 pr-1" role="group" aria-label="Points">
      <span className="mr-1 text-soft">Points</span>
      <button
        type="button"
        title={said}
        aria-label={said}
        className="flex h-6 min-w-6 items-center justify-center rounded-[5px] border border-plum bg-paper px-1 text-[11px] font-semibold text-plum"
        onClick={() => visit(first)}
      >
        {unsettled.length}
      </button>
    </div>
  );
}
