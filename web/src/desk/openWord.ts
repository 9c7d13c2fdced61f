/** Opens a word of a sentence as Enter does. */
export function openWord(word: HTMLElement | null | undefined): void {
  word?.focus();
  word?.dispatchEvent(new KeyboardEvent("keydown", { key: "Enter", bubbles: true }));
}
