/** What a number is called in the page. */
export function numberId(number: number): string {
  return `number:${number}`;
}

/** Brings a number into view and puts the focus on it. */
export function showNumber(number: number): void {
  requestAnimationFrame(() => {
    const found = document.getElementById(numberId(number));
    found?.closest("details")?.setAttribute("open", "");
    found?.focus({ preventScroll: true });
    found?.scrollIntoView({ block: "center" });
  });
}
