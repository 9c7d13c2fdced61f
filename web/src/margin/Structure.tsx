import type { FigureView } from "../api/client";
import { useSelection, useSelectionControls } from "../pack/SelectedFigure";
import { usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Words } from "../words/Words";
import { Heading } from "./Heading";
import { Members } from "./Members";
import { SubtotalName } from "./SubtotalName";

type Structured = FigureView["structure"];

/** The line's place in its statement: a sentence, its parts, and ways to rearrange them. */
export function Structure({ figure }: { figure: FigureView }) {
  const { act } = usePackControls();
  const { structure } = figure;
  return (
    <section aria-labelledby="structure">
      <h2 id="structure" className="mb-1 text-[12px] font-semibold text-soft">
        Structure
      </h2>
      <p className="text-[14.5px]/[1.85]">
        <Words words={structure.sentence} act={act} />
      </p>
      <Parts parts={structure.parts} />
      <Rearrange structure={structure} />
      <Heading key={`${figure.column} ${figure.column_label}`} figure={figure} />
      <Members lists={structure.members} />
    </section>
  );
}

/** What a total adds, each with its sign to change. */
function Parts({ parts }: Pick<Structured, "parts">) {
  const { act } = usePackControls();
  if (parts.length === 0) return null;
  return (
    <details className="mt-1">
      <summary className="text-soft">Adds {parts.length} lines</summary>
      <ul className="mt-0.5">
        {parts.map((part) => (
          <li key={part.line} className="flex items-center gap-2 py-px">
            <button
              type="button"
              className="size-6 rounded-sm border border-hairline bg-paper leading-4 hover:border-teal"
              aria-label={`${part.label}: ${part.sign > 0 ? "added" : "taken away"}; change its sign`}
              onClick={() => act(part.flip)}
            >
              {part.sign > 0 ? "+" : "−"}
            </button>
            {part.label}
          </li>
        ))}
      </ul>
    </details>
  );
}

/** The line moved, put under a subtotal with others, or taken out. */
function Rearrange({ structure }: { structure: Structured }) {
  const { act } = usePackControls();
  const { lines, naming } = useSelection();
  const { setNaming } = useSelectionControls();
  const { earlier, later, dissolve, group } = structure;
  return (
    <>
      <div className="mt-2 flex flex-wrap gap-1.5">
        <Button
          shortcut="alt ↑"
          className="px-2! py-0.5!"
          disabled={!earlier}
          onClick={() => earlier && act(earlier)}
        >
          Up
        </Button>
        <Button
          shortcut="alt ↓"
          className="px-2! py-0.5!"
          disabled={!later}
          onClick={() => later && act(later)}
        >
          Down
        </Button>
        <Button shortcut="g" className="px-2! py-0.5!" onClick={() => setNaming(true)}>
          Put under a subtotal
        </Button>
        {dissolve ? (
          <Button className="px-2! py-0.5!" onClick={() => act(dissolve)}>
            Remove, keep its parts
          </Button>
        ) : null}
      </div>
      {naming ? (
        <SubtotalName
          count={lines.length}
          onSave={(label) => {
            setNaming(false);
            act({ ...group, lines: [...lines], label });
          }}
          onClose={() => setNaming(false)}
        />
      ) : null}
    </>
  );
}
