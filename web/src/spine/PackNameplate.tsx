import type { ComponentProps } from "react";

import { usePack } from "../pack/OpenPack";

/** Whose the pack is and what it covers: the button that opens the menu of packs. */
export function PackNameplate(props: ComponentProps<"button">) {
  const { pack } = usePack();
  return (
    <button type="button" className="w-full rounded-md px-2 py-1 text-left hover:bg-teal-faint" {...props}>
      <span className="block font-semibold">{pack.entity}</span>
      <span className="block text-soft">{pack.period}</span>
    </button>
  );
}
