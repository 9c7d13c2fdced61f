import { useNudges } from "../api/queries";
import { useSelectionControls } from "../pack/SelectedFigure";
import { usePackControls, usePack } from "../pack/OpenPack";
import { showFigure } from "../pack/focus";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";

/** Every figure moved: from what to what, why, and by how much. */
export function Nudges() {
  const { act } = usePackControls();
  const { select } = useSelectionControls();
  const { where, pack } = usePack();
  const { data } = useNudges(where, pack.revision);
  if (!data) return null;
  const count = data.nudges.filter((nudge) => !nudge.resting).length;
  return (
    <section aria-labelledby="nudges">
      <div className="mb-1 flex items-center justify-between gap-2">
        <h2 id="nudges" className="font-semibold text-ochre">
          {count === 1 ? "1 figure nudged" : `${count} figures nudged`}
        </h2>
        <Button className="px-2! py-0.5!" onClick={() => act(data.clear)}>
          Clear nudges
        </Button>
      </div>
      <p className="mb-1 text-soft">{data.added_drift} units of drift added in all.</p>
      <ol className="space-y-1">
        {data.nudges.map((nudge) => (
          <li key={`${nudge.line} ${nudge.column}`}>
            <Choice
              detail={
                <>
                  {nudge.resting ? "Resting: made at another unit. " : ""}
                  {nudge.reason}
                  {nudge.author ? ` By ${nudge.author}.` : ""}
                </>
              }
              onClick={() => {
                select(nudge);
                showFigure(nudge);
              }}
            >
              <span className="flex justify-between gap-2">
                <span>{nudge.label}</span>
                <span className="font-serif whitespace-nowrap">
                  {nudge.natural} <span aria-label="becomes">→</span>{" "}
                  <span className="font-semibold text-ochre">{nudge.printed}</span>
                </span>
              </span>
            </Choice>
          </li>
        ))}
      </ol>
    </section>
  );
}
