import { useEffect, useRef } from "react";

import { Button } from "../ui/Button";
import type { Planning } from "./usePlanning";

interface Props {
  planning: Planning;
  onKeep: () => void;
}

/** A search that goes on: the best plan so far, to be kept as it is, or the search stopped. */
export function Searching({ planning, onKeep }: Props) {
  const { page, progress, stop, end } = planning;
  // The best plan so far is kept as soon as the search has ended with it.
  const wanted = useRef(false);
  useEffect(() => {
    if (!wanted.current || progress) return;
    wanted.current = false;
    if (page?.after) onKeep();
  }, [onKeep, page, progress]);
  if (!progress) return null;
  return (
    <p role="status" className="flex items-center gap-3 text-soft">
      Still {progress.says}.
      {progress.done ? (
        <Button
          main
          className="px-2! py-0.5!"
          onClick={() => {
            wanted.current = true;
            end().catch(() => {
              wanted.current = false;
            });
          }}
        >
          Keep this
        </Button>
      ) : null}
      <Button className="px-2! py-0.5!" onClick={stop}>
        Stop the search
      </Button>
    </p>
  );
}
