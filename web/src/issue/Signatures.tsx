import { useQuery } from "@tanstack/react-query";

import { sessionQuery } from "../api/queries";
import type { Issuing } from "./useIssue";

/** Who prepared and reviewed it, who it goes to, and as what: a sentence to write in. */
export function Signatures({ issuing }: { issuing: Issuing }) {
  const { saying, say, page } = issuing;
  const { data: session } = useQuery(sessionQuery);
  const other = saying.state === "draft" ? "final" : "draft";
  return (
    <section aria-label="Signed">
      <h3 className="text-[12px] font-semibold text-soft">Signed</h3>
      <p className="leading-8">
        Prepared by{" "}
        {session?.name ? (
          <bdi className="font-semibold">{session.name}</bdi>
        ) : (
          <Write label="Prepared by" value={saying.by} hint="your name" onWrite={(by) => say({ by })} />
        )}
        , reviewed by{" "}
        {session?.name || page?.reviewed_by ? (
          <bdi className="font-semibold">{page?.reviewed_by || "nobody yet: reviewers sign on the page"}</bdi>
        ) : (
          <Write
            label="Reviewed by"
            value={saying.reviewed}
            hint="nobody yet"
            onWrite={(reviewed) => say({ reviewed })}
          />
        )}
        .
      </p>
      <p className="leading-8">
        Goes to <Write label="Goes to" value={saying.to} hint="whom?" onWrite={(to) => say({ to })} /> as{" "}
        <button
          type="button"
          aria-label={`${saying.state}, make it ${other}`}
          className="border-b-2 border-teal px-1 font-semibold hover:bg-teal-faint"
          onClick={() => say({ state: other })}
        >
          {saying.state}
        </button>
        .
      </p>
    </section>
  );
}

function Write({
  label,
  value,
  hint,
  onWrite,
}: {
  label: string;
  value: string;
  hint: string;
  onWrite: (value: string) => void;
}) {
  return (
    <input
      aria-label={label}
      value={value}
      placeholder={hint}
      maxLength={200}
      size={Math.max(value.length, hint.length, 6)}
      className="max-w-full border-b-2 border-teal bg-paper px-1 font-semibold"
      onChange={(event) => onWrite(event.target.value)}
    />
  );
}
