import type { FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";

/** Ways out for a figure that is wider than its rule allows. */
export function Remedies({ remedies }: { remedies: FigureView["remedies"] }) {
  const { act } = usePackControls();
  if (remedies.length === 0) return null;
  return (
    <section aria-labelledby="remedies">
      <h2 id="remedies" className="mb-1 font-semibold text-rust">
        Wider than its rule allows
      </h2>
      <p className="mb-1 text-soft">It is printed in full. One of these lets it fit:</p>
      <ul className="space-y-1">
        {remedies.map(({ says, text, change }) => (
          <li key={says}>
            <button
              type="button"
              className="flex w-full justify-between gap-2 rounded-md border border-hairline bg-paper px-2.5 py-1 text-left hover:border-teal"
              onClick={() => act(change)}
            >
              {says} <bdi className="font-serif whitespace-nowrap">{text}</bdi>
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}
