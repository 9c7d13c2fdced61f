import { Sheet } from "../ui/Sheet";
import { PutAway } from "./PutAway";

/** Packs that are put away or taken out, laid over the desk. */
export function PutAwaySheet({ onClose }: { onClose: () => void }) {
  return (
    <Sheet
      open
      onClose={onClose}
      title="Packs put away or taken out"
      says="Each can be brought back as it was."
    >
      <PutAway />
    </Sheet>
  );
}
