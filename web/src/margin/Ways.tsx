import type { FigureView } from "../api/client";
import type { Deed } from "../api/queries";
import { Choice } from "../ui/Choice";

interface Props {
  figure: FigureView;
  statement: string;
  act: (deed: Deed) => void;
}

/** The gaps of the figure in hand, and ways to close each. */
export function Ways({ figure, statement, act }: Props) {
  return figure.gaps.map((gap) => (
    <section key={gap.check} aria-label={gap.name}>
      <h2 className="mb-1 font-semibold text-rust">{gap.says}</h2>
      {gap.ways.length === 0 ? (
        <p>No way of one unit closes this gap alone. Foot the pack, or release a hold.</p>
      ) : null}
      <ul className="space-y-1">
        {gap.ways.map((way, place) => (
          <li key={way.id}>
            <Choice
              first={place === 0}
              detail={way.detail}
              onClick={() => act({ kind: "close_gap", statement, check: gap.check, way: way.id })}
            >
              {way.says}
            </Choice>
          </li>
        ))}
      </ul>
    </section>
  ));
}
