import { useState } from "react";

import type { EditionView } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";

type Rate = EditionView["rates"][number];

/** What each column is translated at, with where the rate is from. A rate is kept as it is written. */
export function Rates({ edition }: { edition: EditionView }) {
  const { statement } = usePack();
  const rows = edition.rates.filter((each) => each.statements.includes(statement));
  return (
    <table className="mt-1 w-full text-[12.5px]" aria-label={`Rates of ${edition.name}`}>
      <thead>
        <tr className="text-left text-soft">
          <th className="font-normal">Column</th>
          <th className="font-normal">Rate</th>
          <th className="font-normal">from</th>
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <RateRow key={`${row.label} ${row.rate} ${row.source} ${row.statements.join()}`} row={row} />
        ))}
      </tbody>
    </table>
  );
}

function RateRow({ row }: { row: Rate }) {
  const { keep } = usePackControls();
  const [rate, setRate] = useState(row.rate);
  const [source, setSource] = useState(row.source);
  const done = () => {
    const said = { rate: rate.trim(), source: source.trim() };
    if (said.rate === row.rate && (said.source === row.source || !said.rate)) return;
    keep({ ...row.change, rate: said.rate || null, source: said.source });
  };
  const field = "w-full border-b border-hairline bg-paper px-1 focus:border-teal";
  return (
    <tr>
      <th scope="row" className="pr-1 text-left align-top font-normal">
        {row.label}
        <span className="block text-soft">{row.costs}</span>
      </th>
      <td className="pr-1 align-top">
        <input
          aria-label={`Rate for ${row.label}`}
          value={rate}
          placeholder="no rate yet"
          className={field}
          onChange={(event) => setRate(event.target.value)}
          onBlur={done}
        />
      </td>
      <td className="align-top">
        <input
          aria-label={`Source of the rate for ${row.label}`}
          value={source}
          placeholder="source"
          className={field}
          onChange={(event) => setSource(event.target.value)}
          onBlur={done}
        />
        {row.date ? <span className="block px-1 text-soft">{row.date}</span> : null}
      </td>
    </tr>
  );
}
