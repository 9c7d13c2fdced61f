import type { FigureView } from "../api/client";

/** Sample amounts of each awkward sort, printed under the rule in hand. */
export function Specimens({ figure }: { figure: FigureView }) {
  return (
    <section aria-labelledby="specimens">
      <h2 id="specimens" className="mb-1 text-[12px] font-semibold text-soft">
        Specimens
      </h2>
      <table className="w-full tabular-nums">
        <tbody>
          {figure.specimens.map((specimen) => (
            <tr key={specimen.sort} className="border-b border-hairline">
              <th scope="row" className="py-0.5 text-left font-normal text-soft xl:whitespace-nowrap">
                {specimen.sort}
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
    </section>
  );
}
