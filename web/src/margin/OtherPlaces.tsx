import { useState } from "react";

import { usePack } from "../pack/OpenPack";
import { FigurePlaces } from "./FigurePlaces";

/** Where else the figure is printed, once that is asked for: each edition has to be proved for it. */
export function OtherPlaces({ figure }: { figure: string[] }) {
  const { pack } = usePack();
  const [open, setOpen] = useState(false);
  if (pack.editions.length + pack.dashboards.length < 2) return null;
  return (
    <details open={open} onToggle={(event) => setOpen(event.currentTarget.open)}>
      <summary className="cursor-pointer text-[12px] font-semibold text-soft">
        In every edition and place
      </summary>
      {open ? <FigurePlaces figure={figure} sort="page" /> : null}
    </details>
  );
}
