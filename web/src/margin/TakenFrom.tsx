import { useQuery } from "@tanstack/react-query";
import { lazy, Suspense, useState } from "react";

import type { FigureView, TakenView } from "../api/client";
import { packsQuery, takenQuery } from "../api/queries";
import { usePack, usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";

const TakeForm = lazy(() => import("./TakeForm").then((made) => ({ default: made.TakeForm })));

/** The figures of other packs that this one is the sum of, and ways to take it from them and to leave them. */
export function TakenFrom({ figure, statement }: { figure: FigureView; statement: string }) {
  const { pack } = usePack();
  const [asking, setAsking] = useState(false);
  const { data: packs } = useQuery(packsQuery);
  const { data } = useQuery(takenQuery(pack.code, pack.revision));
  const others = (packs ?? []).filter((each) => each.id !== pack.code);
  const found = data?.find(
    ({ figure: [owner, line, column] }) =>
      owner === statement && line === figure.line && column === figure.column,
  );
  if (found) return <Sources of={found} />;
  if (others.length === 0 || figure.structure.parts.length > 0) return null;
  return (
    <section aria-labelledby="taken">
      <h2 id="taken" className="mb-1 text-[12px] font-semibold text-soft">
        Taken from other packs
      </h2>
      {asking ? (
        <Suspense fallback={null}>
          <TakeForm figure={figure} statement={statement} others={others} onClose={() => setAsking(false)} />
        </Suspense>
      ) : (
        <Button className="px-2! py-0.5!" onClick={() => setAsking(true)}>
          Take it from other packs
        </Button>
      )}
    </section>
  );
}

function Sources({ of }: { of: TakenView }) {
  const { act } = usePackControls();
  const { take, leave } = of;
  return (
    <section aria-labelledby="taken">
      <h2 id="taken" className="mb-1 text-[12px] font-semibold text-soft">
        Taken from other packs
      </h2>
      <ul>
        {of.sources.map((source) => (
          <li key={source.name} className="flex items-baseline justify-between gap-2 py-px">
            <bdi>{source.name}</bdi>
            <span className="text-right">
              <span className="font-serif">{source.was}</span>
              <span
                className={`block text-[12px] ${source.stands === "follows" ? "text-soft" : "text-rust"}`}
              >
                {saysOf(source)}
              </span>
            </span>
          </li>
        ))}
      </ul>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {take ? (
          <Button main className="px-2! py-0.5!" onClick={() => act(take)}>
            Take it as it is now
          </Button>
        ) : null}
        <Button className="px-2! py-0.5!" onClick={() => act(leave)}>
          Follow them no more
        </Button>
      </div>
    </section>
  );
}

function saysOf({ stands, now, printed_there: there }: TakenView["sources"][number]): string {
  if (stands === "gone") return "gone there";
  if (stands === "moved") return `${now} there now`;
  return `prints ${there} there`;
}
