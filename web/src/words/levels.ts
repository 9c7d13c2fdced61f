import type { WordView } from "../api/client";

/** Where a word can have been set, and its underline: never told by colour alone. */
export const LEVELS: readonly { level: WordView["level"]; name: string; mark: string }[] = [
  { level: "default", name: "Default", mark: "border-hairline" },
  { level: "everywhere", name: "House", mark: "border-teal" },
  { level: "statement", name: "Statement", mark: "border-plum border-double" },
  { level: "kind", name: "Kind", mark: "border-moss border-double" },
  { level: "column", name: "Column", mark: "border-ink border-dotted" },
  { level: "line", name: "Line", mark: "border-ochre border-dashed" },
  { level: "figure", name: "Figure", mark: "border-rust border-dotted" },
];
