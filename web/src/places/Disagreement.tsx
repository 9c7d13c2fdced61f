import { useState } from "react";

import type { FindingView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";

/** Why a placed figure does not agree with its page, and what would settle it. */
export function Disagreement({ finding, first }: { finding: FindingView; first: boolean }) {
  const { act } = usePackControls();
  const { agrees } = finding;
  return (
    <section aria-label="Why it does not agree" className="space-y-1.5">
      <h2 className={`font-semibold ${agrees.standing === "disagrees" ? "text-rust" : "text-ochre"}`}>
        {finding.text ? <bdi className="font-serif">{finding.text}</bdi> : finding.label}
        {agrees.off ? `: ${agrees.off}` : ""}
      </h2>
      <p>{agrees.says}</p>
      {agrees.ways.map(({ label, change }, place) =>
        change.kind === "accept_nudge" ? (
          <Accepting key={label} onAccept={(reason) => act({ ...change, reason })} />
        ) : (
          <Button
            key={label}
            main={first && place === 0}
            {...(first && place === 0 ? { shortcut: "l" } : {})}
            onClick={() => act(change)}
          >
            {label}
          </Button>
        ),
      )}
    </section>
  );
}

/** It stays as it is, for a reason that is kept with it. */
function Accepting({ onAccept }: { onAccept: (reason: string) => void }) {
  const [reason, setReason] = useState("");
  return (
    <form
      className="flex items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (reason.trim()) onAccept(reason.trim());
      }}
    >
      <Field label="Accept it, because" value={reason} placeholder="a reason" onChange={setReason} />
      <Button type="submit" disabled={!reason.trim()}>
        Accept
      </Button>
    </form>
  );
}
