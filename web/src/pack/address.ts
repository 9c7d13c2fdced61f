import type { Place } from "../api/queries";

export type Lens = "print" | "exact" | "drift" | "origin";
export const LENSES: readonly Lens[] = ["print", "exact", "drift", "origin"];

export type Screen =
  | "page"
  | "figures"
  | "rulebook"
  | "footing"
  | "places"
  | "issue"
  | "beside"
  | "history"
  | "documents"
  | "group";

/** Where the analyst is: kept in the address, so that it survives the browser being closed. */
export interface Address {
  screen: Screen;
  pack: string | null;
  statement: string | null;
  place: Place | null;
  /** The rule in hand on the rulebook screen. */
  rule: string | null;
  /** The dashboard on the screen of places, and the item in hand on it. */
  dashboard: string | null;
  item: string | null;
  /** The edition that stands beside the one in hand. */
  beside: string | null;
  /** What was taken in and is not yet kept. */
  intake: string | null;
  lens: Lens;
}

export type Go = (to: Partial<Address>) => void;
