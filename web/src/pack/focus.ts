import type { Place } from "../api/queries";
import { placeKey } from "../api/queries";

const FRAMES = 20; // how long a row may take to be drawn
const OPENING = 200; // and a page to be there

/** What a figure is called in the page. */
export function figureId(place: Place): string {
  return `figure:${placeKey(place)}`;
}

/** Puts the focus on a figure of the page once it is there to take it. */
export function showFigure(place: Place): void {
  show(() => document.getElementById(figureId(place)), FRAMES);
}

/** Puts the focus on the selected figure once the page is there, so that its keys go on. */
export function showSelected(): void {
  show(() => document.querySelector<HTMLElement>(".statement [aria-selected=true]"), OPENING);
}

let latest = 0;

/** Only what was asked for last gets the focus: an earlier figure may be drawn late, and gone at once. */
function show(find: () => HTMLElement | null, frames: number, asked = ++latest): void {
  // While its row is not drawn the table has the focus, so that no key is lost.
  if (!find()) document.querySelector<HTMLElement>(".statement")?.focus({ preventScroll: true });
  const before = document.activeElement;
  requestAnimationFrame(() => {
    if (asked !== latest) return;
    // A field that was opened meanwhile keeps the focus: what is typed is meant for it.
    const now = document.activeElement;
    if (now !== before && now?.matches("input, textarea")) return;
    const figure = find();
    if (!figure && frames > 0) show(find, frames - 1, asked);
    figure?.focus({ preventScroll: true });
    figure?.scrollIntoView({ block: "nearest", inline: "nearest" });
  });
}
