import { FolderOpen } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useEffect, useRef, useState } from "react";

import { usePackControls, usePack } from "../pack/OpenPack";
import { MENU, MENU_ITEM, openByKey } from "../ui/menu";
import { PackNameplate } from "./PackNameplate";

interface Props {
  commands: readonly (readonly [string, () => void])[];
  onFile: () => void;
  /** Whether a key asked for it: then its first choice has the focus. */
  byKey: boolean;
}

/** The menu of packs, open when it first comes. */
export function OpenPackMenu({ commands, onFile, byKey }: Props) {
  const [open, setOpen] = useState(!byKey);
  const trigger = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (byKey) openByKey(trigger.current);
  }, [byKey]);
  const { pack, packs } = usePack();
  const { go } = usePackControls();
  return (
    <DropdownMenu.Root open={open} onOpenChange={setOpen}>
      <DropdownMenu.Trigger asChild ref={trigger}>
        <PackNameplate />
      </DropdownMenu.Trigger>

      <DropdownMenu.Content align="start" className={MENU}>
        <DropdownMenu.RadioGroup
          value={pack.code}
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
        <DropdownMenu.Item className={MENU_ITEM} onSelect={onFile}>
          <span className="flex items-center gap-2">
            <FolderOpen size={14} aria-hidden="true" /> Open a pack file…
          </span>
        </DropdownMenu.Item>
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}
