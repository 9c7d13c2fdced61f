import { lazy, Suspense, useMemo, useState } from "react";

import type { Action } from "../pack/actions";
import { useActions } from "../pack/actions";
import { useMaybePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";

const AllKeys = lazy(() => import("./AllKeys").then((made) => ({ default: made.AllKeys })));
const Find = lazy(() => import("./Find").then((made) => ({ default: made.Find })));

interface Props {
  actions: readonly Action[];
  /** Keys that the screen itself takes, such as arrows: what they are and what they do. */
  also?: readonly (readonly [string, string])[];
}

/** The buttons of a screen, its keys, and the sheets by which everything on it is found. */
export function Actions({ actions, also = [] }: Props) {
  const [sheet, setSheet] = useState<"find" | "keys" | null>(null);
  const pack = useMaybePack() !== null;
  const all = useMemo<Action[]>(
    () => [
      {
        off: !pack,
        name: "Find a figure, a statement, or something to do",
        key: "/",
        button: "Find",
        run: () => setSheet("find"),
      },
      { name: "All keys", key: "?", button: "Keys", run: () => setSheet("keys") },
      ...actions,
    ],
    [actions, pack],
  );
  useActions(all);
  const close = () => setSheet(null);
  return (
    <>
      {all.flatMap(({ name, button, key, main, off, dim, busy, run }) =>
        button ? (
          <Button
            key={name}
            main={main ?? false}
            {...(key ? { shortcut: key } : {})}
            disabled={off ?? dim ?? false}
            aria-busy={busy ?? false}
            className={key === "?" ? "max-[1100px]:hidden" : ""}
            onClick={run}
          >
            {button}
          </Button>
        ) : (
          []
        ),
      )}
      <Suspense fallback={null}>
        {sheet === "keys" ? <AllKeys actions={all} also={also} onClose={close} /> : null}
        {sheet === "find" ? <Find actions={all} onClose={close} /> : null}
      </Suspense>
    </>
  );
}
