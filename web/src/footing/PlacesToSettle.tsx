import { packOf } from "../api/keys";
import { useAgreement } from "../api/places";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Choice } from "../ui/Choice";

const MOST = 6;

/** What is placed outside of the page and does not agree with it: footing may have brought a nudge to answer. */
export function PlacesToSettle() {
  const { pack } = usePack();
  const { go } = usePackControls();
  const found = useAgreement(pack.id, pack.revision).data ?? [];
  if (found.length === 0) return null;
  const own = packOf(pack.id);
  return (
    <section aria-labelledby="placed" className="space-y-1">
      <h2 id="placed" className="font-semibold text-rust">
        {found.length === 1
          ? "1 placed figure does not agree"
          : `${found.length} placed figures do not agree`}
      </h2>
      {found.slice(0, MOST).map((each, place) => (
        <Choice
          key={place}
          detail={each.agrees.says}
          onClick={() =>
            go({
              screen: "places",
              pack: each.edition === "own" ? own : `${own}@${each.edition}`,
              dashboard: each.dashboard,
              item: each.item,
            })
          }
        >
          {each.label}, {each.dashboard_name}: {each.agrees.off}
        </Choice>
      ))}
    </section>
  );
}
