import { Sheet } from "../ui/Sheet";

const KEYS: readonly [string, string][] = [
  ["← → ↑ ↓", "Move between figures"],
  ["Home, End", "First and last column"],
  ["Enter", "Go to the rule sentence; Enter again opens a word"],
  ["Esc", "Back to the page"],
  ["n, p", "Next and previous gap"],
  ["f", "Foot the pack: every statement and tie together"],
  ["h", "Hold or release the figure"],
  ["c, k, r", "On Footing: compare on the page, keep the plan, release what is in the way"],
  ["1, 2, 3, 4", "Lenses: Print, Exact, Drift, Origin"],
  ["t", "Try changes of rules before they are kept; k keeps, d drops"],
  ["y, v", "Copy the clauses of a line; give them to the chosen lines"],
  ["[, ]", "Fewer and more decimals"],
  ["b", "Next way of printing negatives"],
  ["z", "Next way of printing zeros"],
  ["s", "Next scale"],
  ["shift+↑ ↓", "Choose several lines"],
  ["g", "Put the chosen lines under a new subtotal"],
  ["m", "Make the line a part of a total"],
  ["=", "Tie the figure to another that has to print the same"],
  ["-", "Change the line's sign in its total"],
  ["alt+↑ ↓", "Move the line"],
  ["u, shift+u", "Undo and redo"],
  ["/", "Find a figure, a statement, or something to do"],
  ["?", "This list"],
];

/** Every key, on one sheet. */
export function AllKeys({ open, onClose }: { open: boolean; onClose: () => void }) {
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="All keys"
      says="Keys rest while a field or menu has the focus."
    >
      <dl className="grid grid-cols-[8rem_1fr] gap-x-4 gap-y-1.5">
        {KEYS.map(([key, what]) => (
          <div key={key} className="contents">
            <dt className="font-semibold">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
    </Sheet>
  );
}
