import type { GroupLine } from "../api/client";

/** The id of a pack's row on the page. */
export function groupLineId(pack: string): string {
  return `pack:${pack}`;
}

/** How much is open in a pack. */
export function openIn({ standing, not_as_there }: GroupLine): number {
  if (!standing) return 0;
  return standing.gaps + standing.breaks + standing.apart + standing.places + standing.points + not_as_there;
}

export const ORDERS = ["as they came", "most open first", "by name"] as const;
export type Order = (typeof ORDERS)[number];

/** The packs whose names have the words typed, in an order. */
export function arranged(
  lines: readonly GroupLine[],
  typed: string,
  only: boolean,
  order: Order,
): GroupLine[] {
  const words = typed.toLowerCase().split(/\s+/).filter(Boolean);
  const found = lines.filter(
    (line) =>
      words.every((word) => `${line.entity} ${line.period}`.toLowerCase().includes(word)) &&
      (!only || openIn(line) > 0 || line.problem !== ""),
  );
  if (order === "most open first") found.sort((one, other) => openIn(other) - openIn(one));
  if (order === "by name") found.sort((one, other) => one.entity.localeCompare(other.entity));
  return found;
}
