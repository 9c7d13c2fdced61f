import type { FigureView } from "../api/client";
import { usePack } from "../pack/OpenPack";
import { PointsHere } from "../review/PointsHere";

/** Points on the figure in hand and on what it is part of. */
export function FigurePoints({ figure }: { figure: FigureView }) {
  const { pack, statement } = usePack();
  const { line, column } = figure;
  const page = pack.statements.find(({ id }) => id === statement)?.name ?? statement;
  return (
    <PointsHere
      key={`${statement}:${line}:${column}`}
      subjects={[
        { on: { statement, line, column }, name: figure.label },
        { on: { statement, line }, name: "all of its line" },
        { on: { statement }, name: `all of ${page}` },
        { on: {}, name: "the pack" },
      ]}
    />
  );
}
