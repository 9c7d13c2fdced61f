import { Sheet } from "../ui/Sheet";
import { DeletedIssues } from "./DeletedIssues";
import { PutAway } from "./PutAway";

/** Packs that are put away or taken out, laid over the desk. */
export function PutAwaySheet({ onClose }: { onClose: () => void }) {
  return (
    <Sheet open onClose={onClose} title="Packs put away or removed" says="Each can be restored as it was.">
      <PutAway />
      <DeletedIssues />
    </Sheet>
  );
}
