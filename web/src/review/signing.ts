import type { Change } from "../api/client";

/** The command that signs pages of an edition as they print now. */
export const signing = (
  role: "prepared" | "reviewed",
  edition: string,
  statements: readonly string[],
  dashboards: readonly string[] = [],
): Extract<Change, { kind: "sign" }> => ({
  kind: "sign",
  role,
  edition,
  statements: [...statements],
  dashboards: [...dashboards],
});
