import { useState } from "react";

import type { Subject } from "../api/client";
import { usePack, usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Say } from "./Say";
import { Talk } from "./Talk";
import { isOn, useReview } from "./useReview";

interface Props {
  /** What a point can be put on here, from the narrowest, each with what it is called. */
  subjects: readonly { on: Subject; name: string }[];
}

/** The points on what is in hand and on what it is part of, and a way to put one. */
export function PointsHere({ subjects }: Props) {
  const { pack } = usePack();
  const { keep } = usePackControls();
  const review = useReview();
  const [putting, setPutting] = useState(false);
  const [about, setAbout] = useState(0);
  const here = subjects.flatMap(({ on, name }) =>
    (review?.points ?? []).filter((point) => isOn(point, on)).map((point) => ({ point, name })),
  );
  const chosen = subjects[about] ?? subjects[0];
  const put = (words: string) => {
    if (!chosen) return;
    keep({ kind: "put_point", on: chosen.on, edition: pack.edition, words }, () => setPutting(false));
  };
  return (
    <section aria-label="Points">
      <h2 className="mb-1 text-[12px] font-semibold text-soft">Points</h2>
      <ul className="space-y-2.5">
        {here.map(({ point, name }) => (
          <Talk key={`${name} ${point.id}`} point={point} />
        ))}
      </ul>
      {putting ? (
        <>
          <fieldset className="mt-1 flex flex-wrap gap-x-3">
            <legend className="text-[12px] font-semibold text-soft">A point on</legend>
            {subjects.map(({ name }, place) => (
              <label key={name} className="flex items-center gap-1">
                <input
                  type="radio"
                  name="about"
                  className="accent-teal"
                  checked={place === about}
                  onChange={() => setAbout(place)}
                />
                {name}
              </label>
            ))}
          </fieldset>
          <Say
            label="What you ask or ask for"
            does="Put the point"
            onSay={put}
            onLeave={() => setPutting(false)}
          />
        </>
      ) : (
        <Button data-point shortcut="." className="mt-1 px-2! py-0.5!" onClick={() => setPutting(true)}>
          Put a point
        </Button>
      )}
    </section>
  );
}
