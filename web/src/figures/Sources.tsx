import { useState } from "react";

import type { IntakeView } from "../api/client";
import { Button } from "../ui/Button";
import { ofFile } from "./pickedFile";
import type { TakenIn } from "./useIntake";

interface Props {
  taken: TakenIn;
  intake: IntakeView;
}

/** The sources taken in: what changed when they were taken again, those to choose once more, and queries. */
export function Sources({ taken, intake }: Props) {
  return (
    <>
      {intake.sources.length > 0 ? (
        <p className="flex flex-wrap items-center gap-2 text-soft">
          <span className="min-w-0 break-words">
            From {intake.sources.map(({ name }) => name).join(", ")}.
          </span>
          <Button shortcut="r" className="px-2! py-0.5!" onClick={() => taken.takeAgain()}>
            Read changed sources again
          </Button>
        </p>
      ) : null}
      {intake.changed ? <Changed said={intake.changed} /> : null}
      {taken.lost.map((name) => (
        <label
          key={name}
          className="block rounded-md border border-ochre bg-ochre-wash p-3 font-semibold text-ink"
        >
          {name} cannot be read again on its own. Choose the file again:
          <input
            type="file"
            className="mt-1 block w-full font-normal"
            onChange={(event) => {
              const file = event.target.files?.[0];
              if (file) taken.takeAgain({ name, from: ofFile(file) });
            }}
          />
        </label>
      ))}
      {intake.sources.map(({ name, query }) =>
        query === null ? null : (
          <Query
            key={`${name} ${query}`}
            name={name}
            query={query}
            onAsk={(asked) => taken.takeAgain({ name, query: asked })}
          />
        ),
      )}
    </>
  );
}

function Changed({ said }: { said: string[] }) {
  return (
    <section
      aria-label="Read again"
      role="status"
      className="rounded-md border border-hairline bg-panel-light p-3"
    >
      <h2 className="font-semibold">
        {said.length === 0
          ? "Read again: nothing is read differently"
          : `Read again: ${said.length === 1 ? "one thing is" : `${said.length} things are`} read differently`}
      </h2>
      {said.length > 0 ? (
        <ul className="max-h-40 list-disc overflow-y-auto pl-6">
          {said.map((line) => (
            <li key={line}>{line}</li>
          ))}
        </ul>
      ) : null}
    </section>
  );
}

interface QueryProps {
  name: string;
  query: string;
  onAsk: (query: string) => void;
}

/** What to take of a database: the result of a query, or every table. */
function Query({ name, query, onAsk }: QueryProps) {
  const [text, setText] = useState(query);
  return (
    <form
      className="rounded-md border border-hairline bg-panel-light p-3"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onAsk(text.trim());
      }}
    >
      <label className="block font-semibold">
        Only the result of a query on {name}
        <textarea
          rows={2}
          value={text}
          maxLength={10_000}
          spellCheck={false}
          placeholder="SELECT line, amount FROM ledger WHERE year = 2026"
          className="mt-1 block w-full border border-hairline bg-paper p-1.5 font-normal"
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <p className="mt-1.5 flex gap-1.5">
        <Button type="submit" className="px-2! py-0.5!" disabled={!text.trim()}>
          Read its result
        </Button>
        {query ? (
          <Button className="px-2! py-0.5!" onClick={() => onAsk("")}>
            Read every table
          </Button>
        ) : null}
      </p>
    </form>
  );
}
