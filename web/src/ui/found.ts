/** What is found has every word typed, in any order; nothing is guessed at. */
export function hasEveryWord(name: string, typed: string): boolean {
  return typed
    .toLowerCase()
    .split(/\s+/)
    .every((word) => name.toLowerCase().includes(word));
}

/** How what is found by typing looks: a group of it, and one thing in it. */
export const GROUP =
  "[&_[cmdk-group-heading]]:px-2 [&_[cmdk-group-heading]]:pt-2 [&_[cmdk-group-heading]]:text-[12px] [&_[cmdk-group-heading]]:font-semibold [&_[cmdk-group-heading]]:text-soft";
export const ITEM =
  "flex cursor-pointer justify-between gap-4 rounded-sm px-2 py-1 data-[selected=true]:bg-teal data-[selected=true]:text-white";
