import { useState } from "react";

import type { PointView } from "../api/client";
import { usePack, usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Say } from "./Say";

const STANDING = { open: "open", answered: "answered", settled: "settled" } as const;

/** One point: what was asked, what was answered, and what can be done about it. */
export function Talk({ point }: { point: PointView }) {
  const { pack } = usePack();
  const { keep } = usePackControls();
  const [answering, setAnswering] = useState(false);
  const settled = point.standing === "settled";
  const answer = (words: string, change: number | null = null) =>
    keep({ kind: "answer_point", point: point.id, words, change, did: "" }, () => setAnswering(false));
  return (
    <li className={`border-l-3 pl-2.5 ${settled ? "border-hairline text-soft" : "border-plum"}`}>
      <p className="whitespace-pre-line">
        <bdi>{point.words}</bdi>
      </p>
      <p className="text-[12px] text-soft">
        {[point.author || "Somebody", point.when, STANDING[point.standing]].filter(Boolean).join(", ")}
        {point.on ? "" : ". What it was on is gone."}
      </p>
      {point.answers.map((each, place) => (
        <div key={place} className="mt-1">
          {each.words ? (
            <p className="whitespace-pre-line">
              <bdi>{each.words}</bdi>
            </p>
          ) : null}
          <p className="text-[12px] text-soft">
            {each.change ? `Change ${each.change}${each.did ? `, ${each.did}` : ""}. ` : ""}
            {[each.author || "Somebody", each.when].filter(Boolean).join(", ")}
          </p>
        </div>
      ))}
      {answering ? (
        <Say label="Your answer" does="Answer" onSay={answer} onLeave={() => setAnswering(false)} />
      ) : (
        <div className="mt-1 flex flex-wrap gap-1.5">
          {settled ? null : (
            <Button className="px-2! py-0.5!" onClick={() => setAnswering(true)}>
              Answer
            </Button>
          )}
          {settled || !pack.last_change || !pack.undo ? null : (
            <Button
              className="px-2! py-0.5!"
              title={`Answer with the last change: ${pack.undo}`}
              onClick={() => answer("", pack.last_change)}
            >
              Answer with the last change
            </Button>
          )}
          <Button
            className="px-2! py-0.5!"
            onClick={() => keep({ kind: "settle_point", point: point.id, settled: !settled })}
          >
            {settled ? "Open it again" : "Settle"}
          </Button>
        </div>
      )}
    </li>
  );
}
