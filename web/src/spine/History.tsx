import { useState } from "react";

import type { ChangeView, PackView } from "../api/client";
import { author, setAuthor } from "../api/client";
import { useHistory } from "../api/queries";
import { Field } from "../ui/Field";
import { Sheet } from "../ui/Sheet";

const STATES: Record<ChangeView["state"], string> = {
  applied: "",
  undone: "undone",
  abandoned: "undone, then replaced",
};

/** The record of every change, newest first. */
export function History({ pack, open, onClose }: { pack: PackView; open: boolean; onClose: () => void }) {
  const [name, setName] = useState(author);
  const changes = useHistory(pack.id, open);
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
      {changes.data?.length === 0 ? (
        <p>Nothing has been changed yet. The first change will stand here.</p>
      ) : null}
      {changes.error ? <p role="alert">{changes.error.message}</p> : null}
      <ol className="divide-y divide-hairline">
        {changes.data?.map((change) => (
          <li key={change.number} className="py-1.5">
            <span className={change.state === "applied" ? "" : "text-soft line-through"}>
              {change.summary}
            </span>
            <span className="block text-[12px] text-soft">
              <time dateTime={change.at}>{change.at.slice(0, 16).replace("T", " ")}</time>
              {change.author ? `, ${change.author}` : ""}
              {STATES[change.state] ? `, ${STATES[change.state]}` : ""}
            </span>
          </li>
        ))}
      </ol>
    </Sheet>
  );
}
