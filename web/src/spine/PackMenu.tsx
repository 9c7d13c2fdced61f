import { FolderOpen } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useRef, useState } from "react";

import { packOf } from "../api/keys";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Sheet } from "../ui/Sheet";
import { MENU, MENU_ITEM } from "../ui/menu";
import { AboutPack } from "./AboutPack";
import { PutAway } from "./PutAway";
import { usePacks } from "./usePacks";

/** The pack in hand, the others to go to, and a pack file to open. */
export function PackMenu() {
  const { pack, packs } = usePack();
  const { go, take } = usePackControls();
  const picker = useRef<HTMLInputElement>(null);
  const [sheet, setSheet] = useState<"about" | "away" | null>(null);
  const { copy, putAway, takeOut } = usePacks();
  const commands = [
    ["About this pack…", () => setSheet("about")],
    ["Copy this pack", copy],
    ["Put this pack away", putAway],
    ["Take this pack out", takeOut],
    ["Packs put away or taken out…", () => setSheet("away")],
  ] as const;
  return (
    <div className="border-b border-hairline px-2 pt-2 pb-2">
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="w-full rounded-md px-2 py-1 text-left hover:bg-teal-faint">
          <span className="block font-semibold">{pack.entity}</span>
          <span className="block text-soft">{pack.period}</span>
        </DropdownMenu.Trigger>

        <DropdownMenu.Content align="start" className={MENU}>
          <DropdownMenu.RadioGroup
            value={packOf(pack.id)}
            onValueChange={(id) => go({ pack: id, statement: null, place: null })}
          >
            {packs.map((each) => (
              <DropdownMenu.RadioItem key={each.id} value={each.id} className={MENU_ITEM}>
                {each.entity}, {each.period}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 border-t border-hairline" />
          {commands.map(([name, run]) => (
            <DropdownMenu.Item key={name} className={MENU_ITEM} onSelect={run}>
              {name}
            </DropdownMenu.Item>
          ))}
          <DropdownMenu.Separator className="my-1 border-t border-hairline" />
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => picker.current?.click()}>
            <span className="flex items-center gap-2">
              <FolderOpen size={14} aria-hidden="true" /> Open a pack file…
            </span>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      <input
        ref={picker}
        type="file"
        accept=".json,application/json"
        aria-label="Pack file"
        tabIndex={-1}
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) take(file);
          event.target.value = "";
        }}
      />
      {sheet === "about" ? <AboutPack onClose={() => setSheet(null)} /> : null}
      {sheet === "away" ? (
        <Sheet
          open
          onClose={() => setSheet(null)}
          title="Packs put away or taken out"
          says="Each can be brought back as it was."
        >
          <PutAway />
        </Sheet>
      ) : null}
    </div>
  );
}
