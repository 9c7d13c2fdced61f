import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";

/** Says that the pack is looked at as it was, and leads back to now. */
export function EarlierState() {
  const { past } = usePack();
  const { look } = usePackControls();
  if (!past) return null;
  return (
    <section aria-label="As it was" className="rounded-md border border-ochre bg-ochre-wash p-3">
      <h2 className="font-semibold">The pack as it was</h2>
      <p>Right after: {past.says}. Nothing can be changed here.</p>
      <Button main className="mt-2 px-2! py-0.5!" onClick={() => look(null)}>
        Back to now
      </Button>
    </section>
  );
}
