import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Foot, FootingPageView } from "../api/client";
import { api, taken } from "../api/client";
import { keys } from "../api/keys";
import { usePack } from "../pack/OpenPack";

type Move = FootingPageView["moves"][number];
type Order = "page" | "share";

interface Props {
  moves: Move[];
  /** The plans by which they would move. */
  foot: Foot;
  kept: boolean;
  figures: number;
  onVisit: (move: Move) => void;
}

/** What the plan would move: from what, to what, and how much of the figure that is. */
export function MovedFigures({ moves, foot, kept, figures, onVisit }: Props) {
  const { pack } = usePack();
  const [order, setOrder] = useState<Order>("page");
  const [asked, setAsked] = useState<string | null>(null);
  const some = moves.some((move) => move.kept);
  const other = moves.filter((move) => !move.kept);
  // What differs from the plan on record comes first.
  const page = kept ? moves : [...other, ...moves.filter((move) => move.kept)];
  const shown = order === "page" ? page : moves.toSorted((a, b) => b.weight - a.weight);
  return (
    <section className="rounded-lg border border-hairline bg-paper" aria-labelledby="moves">
      <div className="flex items-baseline justify-between border-b border-hairline px-3.5 py-2">
        <h2 id="moves" className="font-semibold">
          {kept ? "Figures moved" : "Figures that would move"}
        </h2>
        <p className="text-soft">
          {some && !kept ? `${other.length} differ from the plan kept; ` : ""}
          {moves.length} of {figures} figures{" "}
          <a
            className="ml-2 text-teal underline"
            href={`/api/packs/${encodeURIComponent(pack.id)}/nudges.csv`}
            download
          >
            Nudges on record (CSV)
          </a>
        </p>
      </div>
      {moves.length === 0 ? <p className="px-3.5 py-2 text-soft">No figure is moved.</p> : null}
      {moves.length > 0 ? (
        <table className="w-full tabular-nums">
          <thead>
            <tr className="border-b border-hairline text-[12px] text-soft">
              <Head name="Figure" sorts="page" order={order} onOrder={setOrder} left />
              <th scope="col" className="px-3.5 text-right font-medium">
                Exact
              </th>
              <th scope="col" className="px-3.5 text-right font-medium">
                Rounded
              </th>
              <th scope="col" className="px-3.5 text-right font-medium">
                Printed
              </th>
              <Head name="Of figure" sorts="share" order={order} onOrder={setOrder} />
            </tr>
          </thead>
          <tbody>
            {shown.map((move) => (
              <tr key={idOf(move)} className="border-b border-hairline last:border-0">
                <th scope="row" className="px-3.5 py-1 text-left font-serif font-normal">
                  <button
                    type="button"
                    title={move.reason}
                    className="text-left hover:underline"
                    onClick={() => onVisit(move)}
                  >
                    {move.label} <span className="text-soft">in {move.owner}</span>
                    {move.kept ? <span className="sr-only">, printed so already</span> : null}
                    {!move.kept && some ? (
                      <span className="font-sans text-[12px] text-ochre"> new</span>
                    ) : null}
                  </button>{" "}
                  <button
                    type="button"
                    aria-expanded={asked === idOf(move)}
                    aria-label={`Why ${move.label}`}
                    className="min-h-6 min-w-6 rounded-sm px-1 font-sans text-[12px] text-teal hover:underline"
                    onClick={() => setAsked(asked === idOf(move) ? null : idOf(move))}
                  >
                    why
                  </button>
                  {asked === idOf(move) ? <Reasons foot={foot} move={move} /> : null}
                </th>
                <td className="px-3.5 text-right whitespace-nowrap text-soft">
                  <bdi>{move.exact}</bdi>
                </td>
                <td className="px-3.5 text-right font-serif whitespace-nowrap">
                  <bdi>{move.rounded}</bdi>
                </td>
                <td className="px-3.5 text-right font-serif font-semibold whitespace-nowrap text-ochre">
                  <span aria-hidden="true">→ </span>
                  <bdi>{move.printed}</bdi>
                </td>
                <td className="px-3.5 text-right text-soft">{move.share}</td>
              </tr>
            ))}
          </tbody>
        </table>
      ) : null}
    </section>
  );
}

function idOf(move: Move): string {
  return `${move.statement}/${move.line}/${move.column}`;
}

/** Why a figure moves, and what leaving it alone would cost. */
function Reasons({ foot, move }: { foot: Foot; move: Move }) {
  const { pack } = usePack();
  const policy = foot.policy ?? null;
  const apart = foot.apart ?? {};
  const figure: [string, string, string] = [move.statement, move.line, move.column];
  const { data } = useQuery({
    queryKey: keys.why(pack.id, pack.revision, [policy, apart, ...figure]),
    queryFn: () =>
      taken(
        api.POST("/api/packs/{pack}/footing/why", {
          params: { path: { pack: pack.id } },
          body: { policy, apart, figure },
        }),
      ),
  });
  return (
    <p role="status" className="font-sans text-[12.5px] text-soft">
      {move.reason} {data?.says ?? "…"}
    </p>
  );
}

interface HeadProps {
  name: string;
  sorts: Order;
  order: Order;
  left?: boolean;
  onOrder: (order: Order) => void;
}

/** A heading that orders the list. */
function Head({ name, sorts, order, left = false, onOrder }: HeadProps) {
  return (
    <th
      scope="col"
      aria-sort={order === sorts ? (sorts === "page" ? "ascending" : "descending") : "none"}
      className={`px-3.5 py-1 font-medium whitespace-nowrap ${left ? "text-left" : "text-right"}`}
    >
      <button
        type="button"
        className={order === sorts ? "font-semibold text-ink" : "hover:underline"}
        onClick={() => onOrder(sorts)}
      >
        {name}
      </button>
    </th>
  );
}
