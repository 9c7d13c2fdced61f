import type { FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { showFigure } from "../pack/focus";
import { Button } from "../ui/Button";

interface Props {
  figure: FigureView;
  statement: string;
}

/** The figures that this one has to print the same as, with ways to tie it to another and to untie it. */
export function Ties({ figure, statement }: Props) {
  const { act, go, setTying } = usePackControls();
  const { line, column, untie } = figure;
  const visit = (owner: string, place: { line: string; column: string }) => {
    go({ statement: owner, place });
    showFigure(place);
  };
  return (
    <section aria-labelledby="tied">
      <h2 id="tied" className="mb-1 text-[12px] font-semibold text-soft">
        Tied to
      </h2>
      {figure.tied.length > 0 ? (
        <ul>
          {figure.tied.map((other) => (
            <li
              key={`${other.statement} ${other.line} ${other.column}`}
              className="flex items-baseline justify-between gap-2 py-px"
            >
              <button
                type="button"
                className="text-left text-teal underline decoration-hairline underline-offset-2 hover:decoration-teal"
                onClick={() => visit(other.statement, { line: other.line, column: other.column })}
              >
                {other.name}
              </button>
              <span className="text-right whitespace-nowrap">
                <span className="font-serif">{other.printed}</span>
                {other.same ? null : <span className="block text-[12px] text-rust">another amount</span>}
              </span>
            </li>
          ))}
        </ul>
      ) : (
        <p className="text-soft">Nothing. A tie makes two figures print the same.</p>
      )}
      <div className="mt-1 flex flex-wrap gap-1.5">
        <Button shortcut="=" className="px-2! py-0.5!" onClick={() => setTying([statement, line, column])}>
          Tie to a figure
        </Button>
        {untie ? (
          <Button className="px-2! py-0.5!" onClick={() => act(untie)}>
            Untie
          </Button>
        ) : null}
      </div>
    </section>
  );
}
