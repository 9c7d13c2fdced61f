import { useEffect } from "react";

export type Keys = Partial<Record<string, () => void>>;

/** Whether a key press belongs to something that takes typing or its own arrows. */
function isBusy(target: EventTarget | null): boolean {
  if (!(target instanceof HTMLElement)) return false;
  return (
    target.matches("input, textarea, select, [contenteditable=true]") ||
    target.closest("[role=menu], [role=dialog]") !== null
  );
}

/** Arrows go back to the page where nothing has the focus, as after what had it is gone. */
export function useWayBack(back: () => void): void {
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.target !== document.body || !event.key.startsWith("Arrow")) return;
      event.preventDefault();
      back();
    };
    window.addEventListener("keydown", onKeyDown);
    return () => window.removeEventListener("keydown", onKeyDown);
  }, [back]);
}

/** Keys of the desk, by what they type. They rest while a menu, dialog or field has the focus. */
export function useKeys(keys: Keys): void {
  useEffect(() => {
    const onKeyDown = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented) return;
      if (isBusy(event.target)) return;
      const act = keys[event.key];
      if (!act) return;
      event.preventDefault();
      act();
    };
    window.addEventListener("keydown", onKeyDown);
    return () => window.removeEventListener("keydown", onKeyDown);
  }, [keys]);
}
