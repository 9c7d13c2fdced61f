import { useState } from "react";

import type { ChangeView } from "../api/client";
import { author, setAuthor } from "../api/client";
import { useHistory } from "../api/queries";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Field } from "../ui/Field";
import { Sheet } from "../ui/Sheet";

const STATES: Record<ChangeView["state"], string> = {
  applied: "",
  undone: "undone",
  abandoned: "undone, then replaced",
};

/** The record of every change, newest first, or of those that touched the figure in hand. */
export function History({ open, onClose }: { open: boolean; onClose: () => void }) {
  const { pack, statement, address } = usePack();
  const [name, setName] = useState(author);
  const [own, setOwn] = useState(false);
  const { place } = address;
  const figure = own && place ? `${statement}:${place.line}:${place.column}` : null;
  const changes = useHistory(pack.id, figure, open);
  return (
    <Sheet
      open={open}
      onClose={onClose}
      title="History"
      says="Every change to this pack, newest first. Times are UTC."
    >
      <Field
        label="Your name, put to what you change at this desk"
        value={name}
        placeholder="none yet"
        onChange={(to) => {
          setName(to);
          setAuthor(to);
        }}
      />
      {place && address.screen === "page" ? (
        <label className="mt-2 flex items-center gap-2 text-soft">
          <input type="checkbox" className="accent-teal" checked={own} onChange={() => setOwn(!own)} />
          Only what touched the figure in hand
        </label>
      ) : null}
      {changes.data && changes.data.length > 0 ? (
        <a
          className="mt-2 inline-block rounded-md border border-hairline bg-paper px-2 py-0.5 font-medium hover:border-teal"
          href={`/api/packs/${encodeURIComponent(pack.id)}/history.csv${figure ? `?figure=${encodeURIComponent(figure)}` : ""}`}
          download
        >
          {figure ? "This figure’s changes as a file" : "These changes as a file"}
        </a>
      ) : null}
      {changes.data?.length === 0 ? (
        <p className="mt-2">
          {own ? "Nothing has touched this figure." : "Nothing has been changed yet."} A change will stand
          here.
        </p>
      ) : null}
      {changes.error ? <p role="alert">{changes.error.message}</p> : null}
      <ol className="divide-y divide-hairline">
        {changes.data?.map((change) => (
          <Change key={change.number} change={change} onLook={onClose} />
        ))}
      </ol>
    </Sheet>
  );
}

/** One change: what it did, when and by whom, and the pack as it was right after it. */
function Change({ change, onLook }: { change: ChangeView; onLook: () => void }) {
  const { look, go } = usePackControls();
  const { number, summary, state, at, when, author: by } = change;
  return (
    <li className="flex items-start justify-between gap-3 py-1.5">
      <div>
        <span className={state === "applied" ? "" : "text-soft line-through"}>{summary}</span>
        <span className="block text-[12px] text-soft">
          <time dateTime={at}>{when}</time>
          {by ? `, ${by}` : ""}
          {STATES[state] ? `, ${STATES[state]}` : ""}
        </span>
      </div>
      {state === "applied" ? (
        <button
          type="button"
          aria-label={`Look at the pack after: ${summary}`}
          className="min-h-6 shrink-0 text-[12.5px] text-teal underline"
          onClick={() => {
            onLook();
            go({ screen: "page" });
            look({ number, says: summary });
          }}
        >
          look
        </button>
      ) : null}
    </li>
  );
}
