import { useEffect, useRef } from "react";

import type { Foot, FootingPageView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Choice } from "../ui/Choice";

interface Props {
  impossible: NonNullable<FootingPageView["impossible"]>;
  onPlan: (foot: Foot) => void;
}

/** Why no plan exists, and every way out of it. */
export function Impossible({ impossible, onPlan }: Props) {
  const { keep } = usePackControls();
  // The way out has the focus where nothing else does, so that it is one key away.
  const way = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (document.activeElement === document.body) way.current?.focus();
  }, [impossible]);
  return (
    <section role="alert" className="rounded-md border border-rust bg-rust-wash p-3">
      <h2 className="font-semibold text-rust">No plan can keep every hold</h2>
      <p>These cannot all add: {impossible.conflict.join("; ")}.</p>
      {impossible.doubts.map((doubt) => (
        <p key={doubt}>{doubt}</p>
      ))}
      {impossible.release ? (
        <Button
          main
          ref={way}
          shortcut="r"
          className="mt-2 text-left whitespace-normal!"
          onClick={() => impossible.change && keep(impossible.change)}
        >
          Release {impossible.release.map((each) => each.label).join(" and ")}
        </Button>
      ) : (
        <p>No hold is to blame; print with more decimals.</p>
      )}
      {impossible.others.length > 0 ? <h3 className="mt-2 font-semibold">Other ways</h3> : null}
      <ul className="mt-1 space-y-1">
        {impossible.others.map(({ says, change }) => (
          <li key={says}>
            <Choice onClick={() => (change.kind === "foot" ? onPlan(change) : keep(change))}>{says}</Choice>
          </li>
        ))}
      </ul>
    </section>
  );
}
