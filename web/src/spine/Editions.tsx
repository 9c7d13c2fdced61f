import { lazy, Suspense, useState } from "react";

import { useEditions } from "../api/places";
import { packOf } from "../api/keys";
import { usePackControls, usePack } from "../pack/OpenPack";

const AddEdition = lazy(() => import("./AddEdition").then((made) => ({ default: made.AddEdition })));

/** The editions of the pack, with what does not foot in each; one of them is in hand. */
export function Editions() {
  const { pack, address } = usePack();
  const { go } = usePackControls();
  const [adding, setAdding] = useState(false);
  const { data } = useEditions(pack.id, pack.revision);
  return (
    <>
      <ul aria-label="Editions">
        {(data ?? []).map(({ id, address: of, name, caption, gaps, breaks }) => (
          <li key={id}>
            <button
              type="button"
              aria-current={id === pack.edition}
              className="flex w-full items-baseline justify-between gap-1 border-l-3 border-transparent px-3.5 max-xl:pr-1 py-1 text-left hover:bg-teal-faint aria-[current=true]:border-teal aria-[current=true]:font-semibold"
              onClick={() => {
                if (address.screen === "places" && id !== pack.edition) {
                  const first = pack.dashboards.find((each) => each.edition === id);
                  go({
                    pack: of,
                    dashboard: first?.id ?? null,
                    item: null,
                    screen: first ? "places" : "page",
                  });
                } else go({ pack: of });
              }}
            >
              <span className="min-w-0">
                {name}
                {caption ? (
                  <span className="block text-[12px] font-normal text-soft">
                    <span className="sr-only">, </span>
                    {caption}
                  </span>
                ) : null}
              </span>
              {gaps + breaks > 0 ? (
                <span className="shrink-0 font-semibold text-rust">
                  {gaps > 0 ? `${gaps} ${gaps === 1 ? "gap" : "gaps"}` : `${breaks} breaks`}
                </span>
              ) : (
                <span className="shrink-0 font-normal text-moss">foots</span>
              )}
            </button>
          </li>
        ))}
        <li>
          <button
            type="button"
            className="w-full px-[17px] py-1 text-left text-soft hover:bg-teal-faint"
            onClick={() => setAdding(true)}
          >
            + Another edition
          </button>
        </li>
        <li>
          <a
            className="block px-[17px] py-1 text-soft underline-offset-2 hover:bg-teal-faint hover:underline"
            href={`/read/${packOf(pack.id)}/${pack.edition}`}
            target="_blank"
            rel="noreferrer"
          >
            What readers get
          </a>
        </li>
      </ul>
      <Suspense fallback={null}>{adding ? <AddEdition onClose={() => setAdding(false)} /> : null}</Suspense>
    </>
  );
}
