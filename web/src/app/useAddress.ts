import { startTransition, useCallback, useEffect, useState } from "react";

import type { Address, Go, Screen } from "../pack/address";
import { LENSES } from "../pack/address";

const SCREENS: readonly Screen[] = [
  ...([
    "figures",
    "rulebook",
    "footing",
    "places",
    "documents",
    "issue",
    "beside",
    "history",
    "group",
  ] as const),
];

function read(): Address {
  const { pathname, hash, search } = window.location;
  const [, first, pack, third] = pathname.split("/").map(decodeURIComponent);
  const [line, column] = hash.slice(1).split("/").map(decodeURIComponent);
  const query = new URLSearchParams(search);
  const screen = SCREENS.find((each) => each === first) ?? "page";
  const onPlaces = screen === "places";
  return {
    screen,
    pack: pack ? pack : null,
    intake: query.get("intake"),
    statement: onPlaces ? null : (third ?? null),
    place: line && column ? { line, column } : null,
    rule: screen === "rulebook" && line ? line : null,
    dashboard: onPlaces ? (third ?? null) : null,
    item: onPlaces && line ? line : null,
    beside: query.get("with"),
    lens: LENSES.find((known) => known === query.get("lens")) ?? "drift",
  };
}

function write(address: Address): string {
  const { screen, pack, statement, place, rule, dashboard, item, beside, intake, lens } = address;
  const third = screen === "places" ? dashboard : statement;
  const path = [screen === "page" ? "packs" : screen, pack, third]
    .filter((step) => step !== null)
    .map(encodeURIComponent);
  const query = new URLSearchParams({ lens });
  if (screen === "beside" && beside) query.set("with", beside);
  if (intake) query.set("intake", intake);
  return `/${path.join("/")}?${query.toString()}${hashOf({ screen, rule, item, place })}`;
}

function hashOf({ screen, rule, item, place }: Pick<Address, "screen" | "rule" | "item" | "place">): string {
  const of: Partial<Record<Screen, string[]>> = { rulebook: rule ? [rule] : [], places: item ? [item] : [] };
  const steps = of[screen] ?? (place ? [place.line, place.column] : []);
  return steps.length > 0 ? `#${steps.map(encodeURIComponent).join("/")}` : "";
}

/** The address, and a way to go elsewhere; only another pack or statement is a step back. */
export function useAddress(): [Address, Go] {
  const [address, setAddress] = useState(read);
  useEffect(() => {
    const onPop = () => setAddress(read());
    window.addEventListener("popstate", onPop);
    return () => window.removeEventListener("popstate", onPop);
  }, []);
  const go = useCallback((to: Partial<Address>) => {
    const move = () =>
      setAddress((from) => {
        const next = { ...from, ...to };
        const far = (["screen", "pack", "statement", "dashboard", "beside"] as const).some(
          (each) => from[each] !== next[each],
        );
        const url = write(next);
        if (far && (from.pack !== null || from.screen !== next.screen))
          window.history.pushState(null, "", url);
        else window.history.replaceState(null, "", url);
        return next;
      });
    // Another screen may have to be fetched; the one before stays in view until it is there.
    if (to.screen === undefined) move();
    else startTransition(move);
  }, []);
  return [address, go];
}
