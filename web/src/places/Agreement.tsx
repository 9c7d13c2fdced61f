import type { DashboardView } from "../api/client";

interface Props {
  view: DashboardView | undefined;
  /** Whether a dashboard is on its way. */
  opening: boolean;
  onVisit: (item: string) => void;
}

/** How many placed figures agree with their pages, and a square for each that does not. */
export function Agreement({ view, opening, onVisit }: Props) {
  if (!view) return <p className="text-soft">{opening ? "Opening…" : "There is no dashboard yet."}</p>;
  const all = view.agreeing === view.placed;
  return (
    <>
      <h2 className="font-semibold">Agreement</h2>
      <p className={all ? "text-moss" : "text-soft"}>
        {view.placed} placed figures, {all ? "all of them" : view.agreeing} agree with the page
      </p>
      <ul className="flex min-w-0 flex-1 gap-1.5 overflow-x-auto py-1 pl-1" aria-label="What does not agree">
        {view.findings.map((finding, place) => (
          <li key={place}>
            <button
              type="button"
              title={`${finding.label}: ${finding.agrees.says}`}
              className="flex size-6 items-center justify-center rounded-[5px] border border-rust bg-rust-wash text-[11px] font-semibold text-rust"
              onClick={() => onVisit(finding.item)}
            >
              <span aria-hidden="true">{place + 1}</span>
              <span className="sr-only">
                {finding.label}: {finding.text} {finding.agrees.says}
              </span>
            </button>
          </li>
        ))}
      </ul>
    </>
  );
}
