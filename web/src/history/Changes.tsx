import type { ChangeView } from "../api/client";

export const STATES: Record<ChangeView["state"], string> = {
  applied: "",
  undone: "undone",
  abandoned: "undone, then replaced",
};

interface Props {
  changes: readonly ChangeView[];
  chosen: number | null;
  onChoose: (number: number) => void;
}

/** The changes in a table: when, who, what. */
export function Changes({ changes, chosen, onChoose }: Props) {
  if (changes.length === 0) return null;
  return (
    <table className="w-full table-fixed border-collapse rounded-lg bg-paper text-left">
      <thead className="text-[12px] text-soft">
        <tr>
          <th className="w-36 px-3.5 py-1.5 font-semibold">When</th>
          <th className="w-32 py-1 pr-4 font-semibold">Who</th>
          <th className="py-1 font-semibold">What</th>
        </tr>
      </thead>
      <tbody>
        {changes.map(({ number, at, when, author, summary, state }) => (
          <tr
            key={number}
            className="border-t border-hairline align-top has-[[aria-pressed=true]]:bg-teal-wash"
          >
            <td className="px-3.5 py-1.5 whitespace-nowrap text-soft">
              <time dateTime={at}>{when}</time>
            </td>
            <td className="py-1.5 pr-4">
              {author ? <bdi>{author}</bdi> : <span className="text-soft">nobody named</span>}
            </td>
            <td className="py-1.5 pr-3.5">
              <button
                type="button"
                aria-pressed={number === chosen}
                className={`line-clamp-3 w-full text-left hover:underline ${state === "applied" ? "" : "text-soft line-through"}`}
                onClick={() => onChoose(number)}
              >
                {summary}
              </button>
              {STATES[state] ? <span className="text-[12px] text-soft">{STATES[state]}</span> : null}
            </td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}
