/** A small mark that there is a point here. */
export function PointMark({ says }: { says: string | undefined }) {
  if (!says) return null;
  return (
    <span className="point" title={says}>
      <span aria-hidden="true">?</span>
      <span className="sr-only">point: {says} </span>
    </span>
  );
}
