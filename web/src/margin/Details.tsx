import type { FigureView } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";
import { setSpecimens } from "../pack/formCommands";
import { Contents } from "./Contents";
import { Key } from "../ui/Key";
import { Decisions } from "./Decisions";
import { OtherPlaces } from "./OtherPlaces";
import { Specimens } from "./Specimens";
import { Structure } from "./Structure";
import { Tags } from "./Tags";
import { TakenFrom } from "./TakenFrom";
import { Ties } from "./Ties";

interface Props {
  figure: FigureView;
  trying: boolean;
}

/** What stands below the sentence of a figure: its ties and places, what decides it, its line, corrections. */
export function Details({ figure, trying }: Props) {
  const { statement } = usePack();
  const { act, setTrying } = usePackControls();
  return (
    <>
      <Ties figure={figure} statement={statement} />
      <TakenFrom key={`${statement} ${figure.line} ${figure.column}`} figure={figure} statement={statement} />
      <OtherPlaces figure={[statement, figure.line, figure.column]} />
      <label className="flex items-center gap-2 text-soft">
        <input type="checkbox" className="accent-teal" checked={trying} onChange={() => setTrying(!trying)} />
        Try rule changes before keeping them <Key>t</Key>
      </label>
      {figure.in_words ? (
        <section aria-label="In words">
          <h2 className="mb-1 text-[12px] font-semibold text-soft">In words</h2>
          <p>{figure.in_words}</p>
        </section>
      ) : null}
      <Decisions figure={figure} />
      <Specimens specimens={figure.specimens} onOwn={(amounts) => act(setSpecimens(statement, amounts))} />
      <Structure figure={figure} />
      <Contents figure={figure} />
      <Tags key={figure.line} tagging={figure.tagging} />
    </>
  );
}
