/** What changed in the numbers of a document since the version before. */
export function SinceBefore({ since }: { since: readonly string[] }) {
  const many = since.length === 1 ? "1 number changed" : `${since.length} numbers changed`;
  return (
    <details className="mx-auto mb-3 max-w-[760px] border-l-3 border-teal bg-teal-faint px-3 py-1.5">
      <summary className="cursor-pointer">{many} since the version before</summary>
      <ul className="mt-1 max-h-48 overflow-y-auto text-[13px]/5">
        {since.map((each, place) => (
          <li key={place}>
            <bdi>{each}</bdi>
          </li>
        ))}
      </ul>
    </details>
  );
}
