import type { Problem } from "../api/client";
import type { Deed } from "../api/queries";
import { Button } from "../ui/Button";
import { Notice } from "../ui/Notice";

interface Props {
  problem: Problem;
  statement: string;
  act: (deed: Deed) => void;
  onClose: () => void;
}

/** A refusal, and where holds are to blame for it, the smallest release that settles it. */
export function Refused({ problem, statement, act, onClose }: Props) {
  const release = problem.release ?? [];
  const figures = release.flatMap(([owner, line, column]): [string, string, string][] =>
    owner && line && column ? [[owner, line, column]] : [],
  );
  return (
    <Notice problem={problem} onClose={onClose}>
      {figures.length > 0 ? (
        <Button
          main
          className="mt-2"
          onClick={() => {
            act({ kind: "release", statement, figures });
            act({ kind: "foot", statement });
          }}
        >
          {figures.length === 1 ? "Release it and foot" : `Release ${figures.length} and foot`}
        </Button>
      ) : null}
    </Notice>
  );
}
