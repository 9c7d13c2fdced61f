import { memo, useMemo } from "react";

import type { DocumentView, NumberView } from "../api/client";
import { numberId } from "./showNumber";

type Block = DocumentView["blocks"][number];
type Piece = Block["pieces"][number];

interface Props {
  view: DocumentView;
  hand: number | null;
  onNumber: (number: number) => void;
}

interface Section {
  heading: Block | null;
  blocks: Block[];
  open: boolean;
}

/** The text of a document in our own typography; sections in which nothing is open are folded. */
export const DocumentPage = memo(function DocumentPage({ view, hand, onNumber }: Props) {
  const sections = useMemo(() => sectionsOf(view.blocks), [view.blocks]);
  const put = (pieces: readonly Piece[]) =>
    pieces.map((piece, place) =>
      piece.number === null || piece.number === undefined ? (
        <bdi key={place}>{piece.text}</bdi>
      ) : (
        <NumberMark
          key={place}
          id={piece.number}
          text={piece.text}
          number={view.numbers[piece.number]}
          selected={piece.number === hand}
          onNumber={onNumber}
        />
      ),
    );
  return (
    <article
      aria-label={view.name}
      className="mx-auto max-w-[760px] space-y-3 border border-hairline bg-paper px-8 py-6 font-serif text-[15px]/7 shadow-[0_1px_2px_rgb(20_38_43/0.08)]"
    >
      {sections.map((section, place) => (
        <details key={place} open={section.open} className="group">
          <summary className="cursor-pointer list-none">
            <span className="flex items-baseline gap-2">
              <span aria-hidden="true" className="font-sans text-[11px] text-soft group-open:hidden">
                ▸
              </span>
              <span className="text-[16.5px] font-semibold">
                {section.heading ? put(section.heading.pieces) : "Beginning"}
              </span>
              <span className="font-sans text-[12px] text-soft group-open:hidden">nothing open</span>
            </span>
          </summary>
          {section.blocks.map((block, at) => (
            <BlockText key={at} block={block} put={put} />
          ))}
        </details>
      ))}
    </article>
  );
});

function sectionsOf(blocks: readonly Block[]): Section[] {
  const sections: Section[] = [];
  for (const block of blocks) {
    const last = sections.at(-1);
    if (block.kind === "heading" || !last) {
      sections.push({
        heading: block.kind === "heading" ? block : null,
        blocks: block.kind === "heading" ? [] : [block],
        open: block.open,
      });
    } else {
      last.blocks.push(block);
      last.open ||= block.open;
    }
  }
  if (sections.length > 0 && sections.every(({ open }) => !open)) {
    for (const section of sections.slice(0, 3)) section.open = true;
  }
  return sections;
}

function BlockText({ block, put }: { block: Block; put: (pieces: readonly Piece[]) => React.ReactNode }) {
  if (block.kind !== "table") {
    if (block.pieces.every(({ text }) => !text.trim())) return null;
    return (
      <p className="flex gap-3">
        <span className="min-w-0 flex-1 whitespace-pre-line">{put(block.pieces)}</span>
      </p>
    );
  }
  const wide = Math.max(...block.rows.map((row) => row.length));
  return (
    <>
      {/* A wide table scrolls by itself, by keyboard too. */}
      <div role="region" aria-label="Table" tabIndex={0} className="my-1 overflow-x-auto">
        <table className="w-full border-collapse text-[14px]/6 tabular-nums">
          <tbody>
            {block.rows.map((row, r) => (
              <tr key={r} className="border-b border-hairline">
                {Array.from({ length: wide }, (_, c) => (
                  <td key={c} className={c === 0 ? "py-0.5 pr-4" : "py-0.5 pl-4 text-end"}>
                    {put(row[c] ?? [])}
                  </td>
                ))}
              </tr>
            ))}
          </tbody>
        </table>
      </div>
      {block.sums.map((sum) => (
        <p key={sum} className="font-sans text-[13px]/5 text-rust">
          {sum}
        </p>
      ))}
    </>
  );
}

const LOOKS: Record<NumberView["judgement"], string> = {
  agrees: "border-b-2 border-moss/50",
  rounds: "border-b-2 border-moss/50",
  nudged: "border-b-2 border-ochre bg-ochre-wash",
  disagrees: "border-b-2 border-rust bg-rust-wash font-semibold text-rust",
  gone: "border-b-2 border-rust bg-rust-wash text-rust line-through",
  doubt: "border-b-2 border-dashed border-ochre",
  other: "border-b border-dotted border-soft",
};

interface MarkProps {
  id: number;
  text: string;
  number: NumberView | undefined;
  selected: boolean;
  onNumber: (number: number) => void;
}

/** A number of the text, marked by how it stands. */
function NumberMark({ id, text, number, selected, onNumber }: MarkProps) {
  if (!number) return <bdi>{text}</bdi>;
  const said = `${text}, ${SAID[number.judgement]}`;
  return (
    <button
      id={numberId(id)}
      type="button"
      aria-label={said}
      aria-pressed={selected}
      title={number.name || SAID[number.judgement]}
      className={`px-px ${LOOKS[number.judgement]} ${selected ? "outline-2 outline-offset-1 outline-teal" : ""}`}
      onClick={() => onNumber(id)}
      onFocus={() => onNumber(id)}
    >
      <bdi>{text}</bdi>
    </button>
  );
}

export const SAID: Record<NumberView["judgement"], string> = {
  agrees: "agrees",
  rounds: "agrees as the rounding of the exact amount",
  nudged: "shows a nudge",
  disagrees: "does not agree",
  gone: "is of a figure that is missing",
  doubt: "is in doubt",
  other: "is none of ours",
};
