import type { FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { Choice } from "../ui/Choice";

/** The gaps of the selected figure, and ways to close each. */
export function GapFixes({ gaps }: { gaps: FigureView["gaps"] }) {
  const { act } = usePackControls();
  return gaps.map((gap) => (
    <section key={gap.check} aria-label={gap.name}>
      <h2 className="mb-1 font-semibold text-rust">{gap.says}</h2>
      {gap.ways.length === 0 ? (
        <p>No change of one unit closes this gap. Foot the pack, or release a hold.</p>
      ) : null}
      <ul className="space-y-1">
        {gap.ways.map((way, place) => (
          <li key={way.id}>
            <Choice first={place === 0} detail={way.detail} onClick={() => act(way.change)}>
              {way.says}
            </Choice>
          </li>
        ))}
      </ul>
    </section>
  ));
}
