import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import { api, taken as answered } from "../api/client";
import { Button } from "../ui/Button";

interface Props {
  onQuery: (name: string, query: string) => void;
}

/** The databases that may be read, and what is asked of one; nothing where there is none. */
export function FromDatabase({ onQuery }: Props) {
  const { data } = useQuery({
    queryKey: ["databases"],
    queryFn: () => answered(api.GET("/api/intakes/databases")),
    staleTime: Infinity,
  });
  const [name, setName] = useState<string | null>(null);
  const [query, setQuery] = useState("");
  const [first] = data ?? [];
  if (!data || !first) return null;
  const chosen = data.find((each) => each.name === name) ?? first;
  return (
    <form
      className="rounded-md border border-hairline bg-panel-light p-4 sm:col-span-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (query.trim()) onQuery(chosen.name, query);
      }}
    >
      <p className="flex flex-wrap items-center gap-x-4 gap-y-2">
        <label className="flex items-center gap-2 font-semibold">
          From a database
          <select
            value={chosen.name}
            className="border-b border-ink bg-paper px-1 py-0.5 font-normal"
            onChange={(event) => setName(event.target.value)}
          >
            {data.map((each) => (
              <option key={each.name}>{each.name}</option>
            ))}
          </select>
        </label>
        <span className="text-soft">{chosen.address}</span>
      </p>
      <label className="mt-2 block">
        One SELECT, or the name of a table
        <textarea
          rows={3}
          value={query}
          spellCheck={false}
          className="mt-1 block w-full border border-hairline bg-paper px-2 py-1"
          onChange={(event) => setQuery(event.target.value)}
        />
      </label>
      <Button type="submit" className="mt-2" disabled={!query.trim()}>
        Take in its result
      </Button>
    </form>
  );
}
