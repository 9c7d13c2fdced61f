import type { Sort } from "../api/places";
import { useEverywhere } from "../api/places";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Words } from "../words/Words";
import { AgreementMark } from "./AgreementMark";

interface Props {
  figure: string[];
  sort: Sort;
}

/** One figure wherever it is printed, and the rule in force for this sort of place. */
export function FigurePlaces({ figure, sort }: Props) {
  const { pack } = usePack();
  const { act, go } = usePackControls();
  const { data } = useEverywhere(pack.id, pack.revision, figure, sort);
  if (!data) return null;
  const [statement = "", line = "", column = ""] = figure;
  const count = data.editions.length + data.placed.length;
  const said = data.editions.filter((each) => each.says);
  return (
    <>
      <section aria-label="Everywhere it is printed">
        <h2 className="mb-1 flex justify-between gap-2 text-[12px] font-semibold text-soft">
          {data.name}
          <span className="font-normal whitespace-nowrap">{count} places</span>
        </h2>
        <table className="w-full">
          <tbody>
            <tr className="border-y border-hairline">
              <th scope="row" className="py-1 text-left font-normal">
                Exact
              </th>
              <td className="py-1 text-right font-serif">{data.exact}</td>
              <td />
            </tr>
            {data.editions.map((each) => (
              <tr key={each.edition} className="border-b border-hairline">
                <th scope="row" className="py-1 text-left font-normal">
                  <button
                    type="button"
                    className="text-left underline-offset-2 hover:underline"
                    onClick={() =>
                      go({ pack: each.address, screen: "page", statement, place: { line, column } })
                    }
                  >
                    {each.name} page
                  </button>
                </th>
                <td className="py-1 text-right font-serif">
                  <bdi>{each.text}</bdi>
                </td>
                <td className="py-1 pl-2 text-right text-[12px]">
                  {each.nudged ? <span className="font-semibold text-ochre">nudged</span> : null}
                </td>
              </tr>
            ))}
            {data.placed.map((each, place) => (
              <tr key={place} className="border-b border-hairline">
                <th scope="row" className="py-1 text-left font-normal">
                  {each.label}
                </th>
                <td className="py-1 text-right font-serif">
                  <bdi>{each.text}</bdi>
                </td>
                <td className="py-1 pl-2 text-right">
                  <AgreementMark agrees={each.agrees} />
                </td>
              </tr>
            ))}
          </tbody>
        </table>
        {said.slice(0, 3).map((each) => (
          <p key={each.edition} className="pt-1 text-soft">
            {each.says}
          </p>
        ))}
      </section>
      {sort === "page" ? null : (
        <section aria-label={`Rule in force on ${sort}s`}>
          <h2 className="mb-1 text-[12px] font-semibold text-soft">Rule in force on {sort}s</h2>
          <p className="sentence leading-7">
            <Words
              words={data.sentence}
              act={act}
              more={{ words: data.more, name: "Another word", shown: "+" }}
            />
          </p>
        </section>
      )}
    </>
  );
}
