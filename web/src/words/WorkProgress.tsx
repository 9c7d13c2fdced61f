import type { Progress } from "../api/client";
import { Button } from "../ui/Button";

interface Props {
  doing: string;
  progress: Progress;
  onStop: () => void;
}

/** How far long work has come, and a way to stop it. */
export function WorkProgress({ doing, progress, onStop }: Props) {
  const share = progress.total > 0 ? Math.min(1, progress.done / progress.total) : 0;
  return (
    <div className="flex items-center gap-3 rounded-md border border-hairline bg-paper p-3">
      <label className="flex min-w-0 flex-1 items-center gap-3">
        <span className="min-w-0 truncate">
          {doing} {progress.says}
        </span>
        <progress className="h-2 flex-1 accent-teal" max={1} value={share} />
      </label>
      <Button className="px-2! py-0.5!" onClick={onStop}>
        Stop
      </Button>
    </div>
  );
}
