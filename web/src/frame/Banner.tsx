import { TriangleAlert } from "lucide-react";
import { useQueryClient } from "@tanstack/react-query";
import { useEffect, useRef, useSyncExternalStore } from "react";

import { api } from "../api/client";
import { onTrouble, trouble } from "../api/outages";

const AGAIN = 3000;

/** What is wrong with the records or the server, on every screen until it is over. Nothing typed is lost
 * meanwhile: the screens stay as they are. */
export function Banner() {
  const found = useSyncExternalStore(onTrouble, trouble);
  useEffect(() => {
    if (found?.of !== "reading" && !found?.problem.type.endsWith("unreachable")) return;
    const asking = window.setInterval(() => {
      api.GET("/api/packs").catch(() => undefined);
    }, AGAIN);
    return () => window.clearInterval(asking);
  }, [found]);
  const client = useQueryClient();
  const before = useRef(found);
  useEffect(() => {
    // What could not be read meanwhile is read now.
    if (before.current !== null && found === null) void client.invalidateQueries();
    before.current = found;
  }, [client, found]);
  if (found === null) return null;
  const { problem, of } = found;
  const remedy = problem.faults[0]?.remedy;
  return (
    <div
      role="alert"
      data-banner
      className="flex items-baseline justify-center gap-3 border-t-2 border-rust bg-rust-wash px-4 py-2.5 text-ink"
    >
      <TriangleAlert aria-hidden className="size-4 shrink-0 self-center text-rust" />
      <p>
        <strong className="font-semibold">{problem.detail || problem.title}</strong>
        {remedy && !problem.detail.includes(remedy) ? ` ${remedy}` : ""}
      </p>
      <p className="text-soft">
        {of === "keeping" && !problem.type.endsWith("unreachable")
          ? "This is the last saved state. This message goes away once a change is saved."
          : "What you typed stays; this goes away by itself."}
      </p>
    </div>
  );
}
