import type { DraftView } from "../api/client";

type Reasoned = DraftView["columns"][number]["why"][number];

/** Why something was read as it was: what speaks for it, and what against, the strongest first. */
export function Why({ why }: { why: readonly Reasoned[] }) {
  const told = why.filter((each) => each.reasons.length > 0);
  if (told.length === 0) return null;
  return (
    <details className="mt-1">
      <summary className="cursor-pointer text-[12px] font-semibold text-soft">Why</summary>
      {told.map((each) => (
        <div key={each.read_as} className="mt-1">
          <p>Read as {each.read_as}</p>
          <ul className="ml-4 list-disc text-soft">
            {each.reasons.map((reason) => (
              <li key={`${reason.speaks} ${reason.because}`} className="break-words">
                {reason.strength
                  ? `${reason.speaks === "for" ? "For" : "Against"}, ${reason.strength}: ${reason.because}`
                  : reason.because}
                {reason.cells.length > 0 ? ` (${reason.cells.join(", ")})` : ""}
              </li>
            ))}
          </ul>
        </div>
      ))}
    </details>
  );
}
