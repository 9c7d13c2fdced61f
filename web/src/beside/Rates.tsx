import { useState } from "react";

import type { EditionView } from "../api/client";
import { useActs, usePack } from "../pack/PackInHand";
import { useProofColumns } from "./useProofColumns";

interface Row {
  column: string;
  statement: string | null;
  label: string;
  rate: string;
  source: string;
  date: string;
}

/** What each column is translated at, with where the rate is from. A rate is kept as it is written. */
export function Rates({ edition }: { edition: EditionView }) {
  const { statement } = usePack();
  const { keep } = useActs();
  const columns = useProofColumns();
  const known = edition.rates.filter(
    (each) => each.line === "" && (each.statement === "" || each.statement === statement),
  );
  const missing = columns
    .filter((each) => !each.derived && !known.some((rate) => rate.column === each.id))
    .map((each): Row => ({
      column: each.id,
      statement: null,
      label: each.label,
      rate: "",
      source: "",
      date: "",
    }));
  const rows: Row[] = [...known.map((each) => ({ ...each, statement: each.statement || null })), ...missing];
  function put(row: Row) {
    const others = edition.rates
      .filter(
        (each) =>
          each.line !== "" || each.column !== row.column || (each.statement || null) !== row.statement,
      )
      .map(({ column, line, statement: of, rate, source, date }) => ({
        column,
        line: line || null,
        statement: of || null,
        rate,
        source,
        date: date || null,
        quoted: "pack_for_one" as const,
      }));
    const { column, statement: of, rate, source, date } = row;
    const own = { column, statement: of, rate, source, date: date || null, quoted: "pack_for_one" as const };
    keep({ ...edition.edit, rates: rate ? [...others, own] : others });
  }
  return (
    <table className="mt-1 w-full text-[12.5px]" aria-label={`Rates of ${edition.name}`}>
      <thead>
        <tr className="text-left text-soft">
          <th className="font-normal">Column</th>
          <th className="font-normal">{edition.currency} 1 costs</th>
          <th className="font-normal">from</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <RateRow
            key={`${row.column} ${row.statement ?? ""} ${row.rate} ${row.source}`}
            row={row}
            put={put}
          />
        ))}
      </tbody>
    </table>
  );
}

function RateRow({ row, put }: { row: Row; put: (row: Row) => void }) {
  const [rate, setRate] = useState(row.rate);
  const [source, setSource] = useState(row.source);
  const done = () => {
    const same = rate.trim() === row.rate && source.trim() === row.source;
    if (!same) put({ ...row, rate: rate.trim(), source: source.trim() });
  };
  const field = "w-full border-b border-hairline bg-paper px-1 focus:border-teal";
  return (
    <tr>
      <th scope="row" className="pr-1 text-left font-normal">
        {row.label}
      </th>
      <td className="pr-1">
        <input
          aria-label={`Rate for ${row.label}`}
          value={rate}
          placeholder="no rate yet"
          className={field}
          onChange={(event) => setRate(event.target.value)}
          onBlur={done}
        />
      </td>
      <td>
        <input
          aria-label={`Source of the rate for ${row.label}`}
          value={source}
          placeholder="source"
          className={field}
          onChange={(event) => setSource(event.target.value)}
          onBlur={done}
        />
      </td>
    </tr>
  );
}
