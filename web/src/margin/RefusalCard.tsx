import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Notice } from "../words/Notice";

/** A refusal, and where holds are to blame for it, the smallest release that settles it. */
export function RefusalCard() {
  const { problem } = usePack();
  const { act, setProblem } = usePackControls();
  if (!problem) return null;
  const { settle } = problem;
  return (
    <Notice problem={problem} onClose={() => setProblem(null)}>
      {settle ? (
        <Button main className="mt-2" onClick={() => settle.changes.forEach((change) => act(change))}>
          {settle.label}
        </Button>
      ) : null}
    </Notice>
  );
}
