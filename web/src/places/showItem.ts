/** Gives the focus to an item of the dashboard, once it is there. */
export function showItem(id: string): void {
  requestAnimationFrame(() => document.getElementById(`item:${id}`)?.focus());
}
