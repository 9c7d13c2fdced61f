import { useState } from "react";

import type { FigureView } from "../api/client";
import { Button } from "../ui/Button";

type Specimen = FigureView["specimens"][number];

interface Props {
  specimens: Specimen[];
  /** Keeps these amounts as the pack's own specimens. */
  onOwn: (amounts: string[]) => void;
}

/** Sample amounts of each awkward sort, and the pack's own, printed under the rule in hand. */
export function Specimens({ specimens, onOwn }: Props) {
  const [amount, setAmount] = useState("");
  const own = specimens.flatMap((each) => (each.sort === "yours" && each.amount ? [each.amount] : []));
  return (
    <section aria-labelledby="specimens">
      <h2 id="specimens" className="mb-1 text-[12px] font-semibold text-soft">
        Specimens
      </h2>
      <table className="w-full tabular-nums">
        <tbody>
          {specimens.map((specimen) => (
            <tr key={`${specimen.sort} ${specimen.amount ?? ""}`} className="border-b border-hairline">
              <th scope="row" className="py-0.5 text-left font-normal text-soft xl:whitespace-nowrap">
                {specimen.sort}
                {specimen.sort === "yours" && specimen.amount ? (
                  <button
                    type="button"
                    aria-label={`Remove ${specimen.amount}`}
                    title="Remove it"
                    className="ml-1 px-1 text-rust"
                    onClick={() => onOwn(own.filter((each) => each !== specimen.amount))}
                  >
                    ×
                  </button>
                ) : null}
              </th>
              <td className="text-right text-[11px] text-soft xl:text-[12px]">
                <bdi>{specimen.exact}</bdi>
              </td>
              <td className="pl-2 text-right font-serif whitespace-nowrap">
                <bdi>{specimen.text}</bdi>
              </td>
            </tr>
          ))}
        </tbody>
      </table>
      <form
        className="mt-1.5 flex items-center gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (!amount.trim()) return;
          onOwn([...own, amount.trim()]);
          setAmount("");
        }}
      >
        <label className="flex min-w-0 flex-1 items-center gap-2 text-soft">
          Yours
          <input
            value={amount}
            maxLength={60}
            placeholder="-1250.40"
            inputMode="decimal"
            className="min-w-0 flex-1 border-b border-teal bg-paper px-1 text-ink"
            onChange={(event) => setAmount(event.target.value)}
          />
        </label>
        <Button type="submit" className="px-2! py-0.5!">
          Keep it
        </Button>
      </form>
    </section>
  );
}
