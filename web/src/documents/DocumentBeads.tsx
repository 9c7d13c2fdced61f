import type { DocumentView } from "../api/client";

interface Props {
  view: DocumentView | undefined;
  hand: number | null;
  onVisit: (number: number) => void;
}

const MOST_BEADS = 40;

/** How many numbers agree and are none of ours, and a bead for each that is open. */
export function DocumentBeads({ view, hand, onVisit }: Props) {
  if (!view)
    return <p className="text-soft">Every number of a document is read, and judged against the pack.</p>;
  const { counts } = view;
  const agree = (counts.agrees ?? 0) + (counts.rounds ?? 0);
  const sums = view.blocks.reduce((count, block) => count + block.sums.length, 0);
  const open = view.open.slice(0, MOST_BEADS);
  return (
    <>
      <h2 className="font-semibold">Agreement</h2>
      <p className="whitespace-nowrap text-soft max-[1100px]:hidden">
        {agree} follow figures and agree, {counts.other ?? 0} are none of ours
      </p>
      <div
        role="group"
        aria-label="Open"
        className="flex min-w-0 flex-1 items-center gap-1.5 overflow-x-auto py-1"
      >
        {open.map((number) => {
          const said = view.numbers[number];
          if (!said) return null;
          const doubt = said.judgement === "doubt" || said.judgement === "nudged";
          return (
            <button
              key={number}
              type="button"
              aria-current={number === hand}
              title={`${said.text}, ${said.place}`}
              className={`shrink-0 rounded-[5px] border px-1.5 py-0.5 text-[12px] font-semibold ${doubt ? "border-ochre text-ochre" : "border-rust bg-rust-wash text-rust"} ${number === hand ? "outline-2 outline-offset-1 outline-teal" : ""}`}
              onClick={() => onVisit(number)}
            >
              <bdi>{said.text}</bdi>
            </button>
          );
        })}
        {view.open.length > open.length ? (
          <span className="text-soft">and {view.open.length - open.length} more</span>
        ) : null}
        {sums > 0 ? (
          <span className="whitespace-nowrap text-rust">
            {sums === 1 ? "1 sum does not add" : `${sums} sums do not add`}
          </span>
        ) : null}
        {view.open.length === 0 && sums === 0 ? <span className="text-moss">nothing is open</span> : null}
      </div>
    </>
  );
}
