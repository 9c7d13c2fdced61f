import type { Action } from "../pack/actions";
import { keySaid } from "../pack/actions";
import { Sheet } from "../ui/Sheet";

interface Props {
  actions: readonly Action[];
  also: readonly (readonly [string, string])[];
  onClose: () => void;
}

/** Every key of the screen, on one sheet. */
export function AllKeys({ actions, also, onClose }: Props) {
  const keyed = actions.flatMap(({ key, name }): [string, string][] => (key ? [[keySaid(key), name]] : []));
  return (
    <Sheet
      open
      onClose={onClose}
      title="All keys"
      says="Shortcuts are off while you type in a field or a menu is open."
    >
      <dl className="grid grid-cols-[8rem_1fr] gap-x-4 gap-y-1.5">
        {[...also, ...keyed].map(([key, what]) => (
          <div key={`${key} ${what}`} className="contents">
            <dt className="font-semibold">{key}</dt>
            <dd>{what}</dd>
          </div>
        ))}
      </dl>
      <p className="mt-4 text-[12px]">
        <a className="underline" href="/third-party.txt">
          Licences of the packages and fonts in this page
        </a>
      </p>
    </Sheet>
  );
}
