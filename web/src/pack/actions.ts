import { useMemo } from "react";

import { useKeys } from "../ui/useKeys";

/**
 * Something that can be done on a screen. One list of them feeds the keys, Find, the sheet of keys and the
 * buttons of the top bar.
 */
export interface Action {
  name: string;
  /** The key as the browser names it; none where it is found or pressed as a button alone. */
  key?: string;
  run: () => void;
  /** What its button says, where it has one; the main one stands last and stands out. */
  button?: string;
  main?: boolean;
  /** It cannot be done now: neither its key nor its button does anything. */
  off?: boolean;
  /** Its button is dim, while its key says why. */
  dim?: boolean;
  busy?: boolean;
}

/** Binds every action to its key. */
export function useActions(actions: readonly Action[]): void {
  const keys = useMemo(
    () => Object.fromEntries(actions.flatMap(({ key, run, off }) => (key && !off ? [[key, run]] : []))),
    [actions],
  );
  useKeys(keys);
}

/** A key as it is written for people. */
export function keySaid(key: string | undefined): string {
  if (!key) return "";
  return /^[A-Z]$/.test(key) ? `shift+${key.toLowerCase()}` : key;
}
