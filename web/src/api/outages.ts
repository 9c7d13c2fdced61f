import type { Problem } from "./client";

/** What goes on being wrong until something shows that it is over: of reading, of keeping, or of both. */
export interface Trouble {
  problem: Problem;
  of: "reading" | "keeping";
}

type Listener = () => void;

const LASTING = ["unreachable", "no-records", "disk-full"];
let now: Trouble | null = null;
const listeners = new Set<Listener>();

function set(trouble: Trouble | null) {
  if (trouble?.problem.type === now?.problem.type && trouble?.of === now?.of) return;
  now = trouble;
  for (const listener of listeners) listener();
}

export function trouble(): Trouble | null {
  return now;
}

export function onTrouble(listener: Listener): () => void {
  listeners.add(listener);
  return () => listeners.delete(listener);
}

function isReading(method: string): boolean {
  return method === "GET";
}

/** An answer came: what was wrong with requests of its sort is over, and so is silence. */
export function answered(method: string): void {
  if (now === null) return;
  const silent = now.problem.type.endsWith("unreachable");
  if (silent || !isReading(method) || now.of === "reading") set(null);
}

/** A refusal that will not go away by itself is shown until it is over. */
export function refused(problem: Problem, method: string): void {
  if (LASTING.some((kind) => problem.type.endsWith(`:${kind}`)))
    set({ problem, of: isReading(method) ? "reading" : "keeping" });
}
