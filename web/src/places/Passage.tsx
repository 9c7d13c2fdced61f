import { lazy, Suspense } from "react";

import type { DashboardView, PassageView, PieceView } from "../api/client";

// The editor is large, and most who look at a dashboard do not write.
const PassageEditor = lazy(() => import("./PassageEditor"));

interface Props {
  view: DashboardView;
  passage: PassageView;
  editing: boolean;
  onClose: () => void;
}

/** Text whose figures follow: marks stand out by a line under them, those that disagree in rust. */
export function Passage({ view, passage, editing, onClose }: Props) {
  const off = passage.disagreeing;
  return (
    <>
      <h2 className="flex items-baseline justify-between gap-2 font-semibold">
        {passage.label}
        {off > 0 ? (
          <span className="text-[12px] text-rust">{off === 1 ? "1 disagrees" : `${off} disagree`}</span>
        ) : (
          <span className="text-[12px] font-normal text-moss">agrees</span>
        )}
      </h2>
      {editing ? (
        <Suspense fallback={<p>Opening…</p>}>
          <PassageEditor dashboard={view.id} passage={passage} onClose={onClose} />
        </Suspense>
      ) : (
        <div className="space-y-2 pt-1 font-serif text-[15.5px] leading-7">
          {passage.blocks.length === 0 ? <p className="text-soft">Nothing is written here yet.</p> : null}
          {passage.blocks.map((block, place) =>
            block.kind === "text" ? (
              <p key={place}>
                {block.pieces.map((piece, at) => (
                  <Piece key={at} piece={piece} />
                ))}
              </p>
            ) : (
              <SmallTable key={place} block={block} />
            ),
          )}
        </div>
      )}
    </>
  );
}

function Piece({ piece }: { piece: PieceView }) {
  const { agrees } = piece;
  if (!agrees) return piece.text;
  const off = agrees.standing === "disagrees";
  const look = off
    ? "border-rust bg-rust-wash"
    : piece.sort === "typed"
      ? "border-hairline border-dashed"
      : agrees.standing === "shows_nudge"
        ? "border-ochre bg-ochre-wash"
        : "border-teal bg-teal-faint";
  return (
    <bdi className={`border-b-2 px-0.5 ${look}`} title={[piece.name, agrees.says].filter(Boolean).join(". ")}>
      {piece.text}
      {off ? <span className="sr-only"> (disagrees: {agrees.says})</span> : null}
    </bdi>
  );
}

function SmallTable({ block }: { block: Extract<PassageView["blocks"][number], { kind: "table" }> }) {
  return (
    <>
      {block.gone ? <p className="font-sans text-rust">{block.gone}</p> : null}
      <table className="min-w-[50%] border-collapse">
        <thead>
          <tr className="border-b border-ink text-soft">
            <td className="text-[12.5px]">{block.caption}</td>
            {block.heads.map((head) => (
              <th key={head} scope="col" className="pl-6 text-right font-normal">
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {block.rows.map(({ label, texts }, place) => (
            <tr key={place}>
              <th scope="row" className="text-left font-normal">
                {label}
              </th>
              {texts.map((text, at) => (
                <td key={at} className="pl-6 text-right">
                  <bdi>{text}</bdi>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </>
  );
}
