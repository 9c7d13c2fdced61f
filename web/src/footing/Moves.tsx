import { useState } from "react";

import type { FootingPageView } from "../api/client";

type Move = FootingPageView["moves"][number];
type Order = "page" | "share";

interface Props {
  moves: Move[];
  figures: number;
  onVisit: (move: Move) => void;
}

/** What the plan would move: from what, to what, and how much of the figure that is. */
export function Moves({ moves, figures, onVisit }: Props) {
  const [order, setOrder] = useState<Order>("page");
  const shown = order === "page" ? moves : moves.toSorted((a, b) => b.weight - a.weight);
  return (
    <section className="rounded-lg border border-hairline bg-paper" aria-labelledby="moves">
      <div className="flex items-baseline justify-between border-b border-hairline px-3.5 py-2">
        <h2 id="moves" className="font-semibold">
          What would move
        </h2>
        <p className="text-soft">
          {moves.length} of {figures} figures
        </p>
      </div>
      {moves.length === 0 ? (
        <p className="px-3.5 py-2 text-soft">Every figure prints its own rounding.</p>
      ) : null}
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
              <tr
                key={`${move.statement} ${move.line} ${move.column}`}
                className="border-b border-hairline last:border-0"
              >
                <th scope="row" className="px-3.5 py-1 text-left font-serif font-normal">
                  <button
                    type="button"
                    title={move.reason}
                    className="text-left hover:underline"
                    onClick={() => onVisit(move)}
                  >
                    {move.label} <span className="text-soft">in {move.owner}</span>
                    {move.kept ? <span className="sr-only">, printed so already</span> : null}
                  </button>
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
      className={`px-3.5 py-1 font-medium ${left ? "text-left" : "text-right"}`}
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
