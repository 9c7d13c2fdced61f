import { useMemo } from "react";

import { usePack } from "../pack/OpenPack";
import { useSelection } from "../pack/SelectedFigure";
import { PageSignatures } from "../review/PageSignatures";
import { PointsHere } from "../review/PointsHere";

/** Points on the figure in hand and on what it is part of, and who signed the statement. */
export function Review() {
  const { statement } = usePack();
  const { proof, place } = useSelection();
  const subjects = useMemo(() => {
    const line = proof.lines.find(({ id }) => id === place?.line);
    const column = proof.columns.find(({ id }) => id === place?.column);
    return [
      ...(line && column
        ? [{ on: { statement, line: line.id, column: column.id }, name: `${line.label}, ${column.label}` }]
        : []),
      ...(line ? [{ on: { statement, line: line.id }, name: `the line ${line.label}` }] : []),
      { on: { statement }, name: `all of ${proof.name}` },
      { on: {}, name: "the pack" },
    ];
  }, [place, proof, statement]);
  return (
    <>
      <PointsHere key={`${statement}:${place?.line}:${place?.column}`} subjects={subjects} />
      <PageSignatures statement={statement} name={proof.name} />
    </>
  );
}
