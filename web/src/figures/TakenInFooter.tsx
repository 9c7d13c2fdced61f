import type { IntakeView } from "../api/client";

interface Props {
  intake: IntakeView;
  at: number;
  onVisit: (table: number) => void;
}

/** Every table taken in: a mark where nothing is asked of it, or how much is. */
export function TakenInFooter({ intake, at, onVisit }: Props) {
  return (
    <div role="group" aria-label="Taken in" className="flex min-w-0 items-center gap-3 overflow-x-auto">
      <span className="font-semibold">Taken in</span>
      {intake.drafts.map((draft, table) => {
        const open = draft.questions.length;
        const said = draft.left_out ? "left out" : open === 0 ? "nothing to ask" : `${open} to ask`;
        return (
          <button
            key={`${table} ${draft.source} ${draft.sheet}`}
            type="button"
            aria-current={table === at ? "true" : undefined}
            className="flex items-center gap-1.5 rounded-md px-1.5 py-1 whitespace-nowrap hover:bg-teal-faint aria-[current]:bg-teal-wash aria-[current]:font-semibold"
            onClick={() => onVisit(table)}
          >
            {draft.sheet || draft.source}
            <span
              aria-hidden="true"
              className={`grid h-5.5 min-w-5.5 place-items-center px-1 text-[12px] font-semibold ${
                open > 0
                  ? "rounded-sm border border-rust bg-rust-wash text-rust"
                  : "rounded-full border border-moss text-moss"
              }`}
            >
              {draft.left_out ? "·" : open > 0 ? open : "✓"}
            </span>
            <span className="sr-only">{said}</span>
          </button>
        );
      })}
    </div>
  );
}
