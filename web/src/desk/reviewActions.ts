import type { RefObject } from "react";

import type { Action } from "../pack/actions";

/** What can be put to the page by who reviews it. */
export function reviewActions(
  margin: RefObject<HTMLElement | null>,
  sign: (role: "prepared" | "reviewed") => void,
): Action[] {
  return [
    {
      name: "Put a point on the figure",
      key: ".",
      run: () => margin.current?.querySelector<HTMLElement>("[data-point]")?.click(),
    },
    { name: "Sign the statement as prepared", key: "x", run: () => sign("prepared") },
    { name: "Sign the statement as reviewed", key: "X", run: () => sign("reviewed") },
  ];
}
