/** What a rule is called in the page. */
export function ruleId(id: string): string {
  return `rule:${id}`;
}

/** Brings a rule into view, with the focus on its name. */
export function showRule(id: string): void {
  const card = document.getElementById(ruleId(id));
  card?.scrollIntoView({ block: "nearest" });
  card?.querySelector("button")?.focus({ preventScroll: true });
}
