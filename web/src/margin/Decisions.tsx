import type { FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { LEVELS } from "../words/levels";

/** Which rule decided each clause of the figure, the narrowest rule first. */
export function Decisions({ figure }: { figure: FigureView }) {
  const { go } = usePackControls();
  return (
    <section aria-labelledby="decisions">
      <h2 id="decisions" className="mb-1 text-[12px] font-semibold text-soft">
        Which rule decided
      </h2>
      <dl className="space-y-1.5">
        {figure.decisions.map(({ rule, name, level, clauses }) => (
          <div key={rule ?? "default"}>
            <dt>
              <span
                aria-hidden="true"
                className={`mr-1.5 inline-block w-4 border-b-3 align-middle ${markOf(level)}`}
              />
              {rule ? (
                <button
                  type="button"
                  className="font-medium text-teal hover:underline"
                  onClick={() => go({ screen: "rulebook", rule })}
                >
                  {name}
                </button>
              ) : (
                <span className="font-medium">{name}</span>
              )}
            </dt>
            <dd className="text-[12.5px] text-soft">
              {clauses.map(({ clause, says }) => `${clause.replaceAll("_", " ")}: ${says}`).join("; ")}
            </dd>
          </div>
        ))}
      </dl>
    </section>
  );
}

function markOf(level: string): string {
  return LEVELS.find((each) => each.level === level)?.mark ?? "";
}
