import { usePack } from "../pack/OpenPack";
import { useSelection } from "../pack/SelectedFigure";
import { PageSignatures } from "../review/PageSignatures";

/** Who prepared and reviewed the statement in hand. */
export function StatementSignatures() {
  const { statement } = usePack();
  const { proof } = useSelection();
  return <PageSignatures statement={statement} name={proof.name} />;
}
