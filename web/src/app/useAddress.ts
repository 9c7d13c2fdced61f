import { useCallback, useEffect, useState } from "react";

import type { Address, Go } from "../pack/address";
import { LENSES } from "../pack/address";

function read(): Address {
  const { pathname, hash, search } = window.location;
  const [, packs, pack, statement] = pathname.split("/").map(decodeURIComponent);
  const [line, column] = hash.slice(1).split("/").map(decodeURIComponent);
  const lens = new URLSearchParams(search).get("lens");
  return {
    screen: packs === "figures" || packs === "rulebook" || packs === "footing" ? packs : "page",
    pack: packs !== "figures" && pack ? pack : null,
    statement: statement ?? null,
    place: line && column ? { line, column } : null,
    rule: packs === "rulebook" && line ? line : null,
    lens: LENSES.find((known) => known === lens) ?? "drift",
  };
}

function write(address: Address): string {
  const { screen, pack, statement, place, rule, lens } = address;
  if (screen === "figures") return "/figures";
  const path = [screen === "page" ? "packs" : screen, pack, statement]
    .filter((step) => step !== null)
    .map(encodeURIComponent);
  const steps = screen === "rulebook" ? [rule ?? ""] : place ? [place.line, place.column] : [""];
  const hash = steps[0] ? `#${steps.map(encodeURIComponent).join("/")}` : "";
  return `/${path.join("/")}?lens=${lens}${hash}`;
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
    setAddress((from) => {
      const next = { ...from, ...to };
      const far = from.screen !== next.screen || from.pack !== next.pack || from.statement !== next.statement;
      const url = write(next);
      if (far && (from.pack !== null || from.screen !== next.screen)) window.history.pushState(null, "", url);
      else window.history.replaceState(null, "", url);
      return next;
    });
  }, []);
  return [address, go];
}
