import type { FootingPageView } from "../api/client";

type Group = FootingPageView["relations"][number];
type Mark = Group["relations"][number]["marks"][number];

interface Props {
  group: Group;
  onVisit: (line: string, column: string) => void;
}

const WAYS = { down: "sums down", across: "across", tie: "between statements" };

/** Relations of one statement as equations in words, with how each stands in every column. */
export function Relations({ group, onVisit }: Props) {
  const wide = group.columns.length > 4;
  return (
    // It may be wider than its place, so it takes the focus and scrolls by keys.
    <section
      aria-label={group.way === "tie" ? group.name : `${group.name}, ${WAYS[group.way]}`}
      // eslint-disable-next-line jsx-a11y/no-noninteractive-tabindex
      tabIndex={0}
      className="overflow-x-auto rounded-lg border border-hairline bg-paper"
    >
      <table className="w-full">
        <thead>
          <tr className="border-b border-hairline">
            <th scope="col" className="min-w-52 px-3.5 py-2 text-left font-semibold">
              {group.way === "tie" ? group.name : `${group.name}, ${WAYS[group.way]}`}
            </th>
            {group.columns.map((column, place) => (
              <th
                key={place}
                scope="col"
                className={`${wide ? "px-1.5" : "w-24 px-3.5"} text-right font-medium whitespace-nowrap text-soft`}
              >
                <bdi>{column || "Stands"}</bdi>
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {group.relations.map((relation) => (
            <tr key={`${relation.line} ${relation.total}`} className="border-b border-hairline last:border-0">
              <th scope="row" className="px-3.5 py-1 text-left font-serif font-normal">
                {relation.total} <span className="text-soft">{relation.parts}</span>
              </th>
              {relation.marks.map((mark) => (
                <td
                  key={mark.column}
                  className={`${wide ? "px-1.5" : "px-3.5"} text-right whitespace-nowrap`}
                >
                  <Stands
                    mark={mark}
                    onVisit={mark.column ? () => onVisit(relation.line, mark.column) : null}
                    name={relation.total}
                  />
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
      {group.unlisted > 0 ? (
        <p className="px-3.5 py-1 text-moss">
          {group.unlisted} {group.unlisted === 1 ? "relation foots" : "relations foot"}
        </p>
      ) : null}
    </section>
  );
}

const SAID = {
  noted: "left with a note",
  incomplete: "a part is missing",
  mixed: "mixed units",
  break: "source break",
};

function Stands({ mark, name, onVisit }: { mark: Mark; name: string; onVisit: (() => void) | null }) {
  if (mark.status === "foots") return <span className="text-moss">foots</span>;
  if (mark.status !== "gap") {
    return <span className={mark.status === "break" ? "text-rust" : "text-soft"}>{SAID[mark.status]}</span>;
  }
  if (!onVisit) return <span className="font-semibold text-rust">{mark.mark}</span>;
  return (
    <button
      type="button"
      aria-label={`${name}: gap ${mark.mark}, see it on the page`}
      className="rounded-sm px-1 font-semibold text-rust hover:underline"
      onClick={onVisit}
    >
      {mark.mark}
    </button>
  );
}
