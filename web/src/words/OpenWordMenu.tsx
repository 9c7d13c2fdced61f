import { DropdownMenu } from "radix-ui";
import { Fragment, useEffect, useRef, useState } from "react";

import { MENU, MENU_ITEM, openByKey } from "../ui/menu";
import type { WordMenuProps } from "./wordButton";
import { wordButton } from "./wordButton";

interface Props extends WordMenuProps {
  /** Whether a key asked for it: then its first choice has the focus. */
  byKey: boolean;
}

/** The menu of a word, open when it first comes: arrows choose, Escape leaves. Further ways stand below. */
export function OpenWordMenu({ byKey, ...props }: Props) {
  const [open, setOpen] = useState(!byKey);
  const trigger = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (byKey) openByKey(trigger.current);
  }, [byKey]);
  const { word, choices, chosen, onChoose, further = [] } = props;
  return (
    <DropdownMenu.Root modal={false} open={open} onOpenChange={setOpen}>
      <DropdownMenu.Trigger ref={trigger} {...wordButton(word)}>
        {word.shown ?? word.label}
      </DropdownMenu.Trigger>

      <DropdownMenu.Content
        align="start"
        sideOffset={4}
        collisionPadding={8}
        className={MENU}
        aria-label={word.name}
        onEscapeKeyDown={(event) => event.stopPropagation()}
        onCloseAutoFocus={(event) => {
          if (props.keepsFocus?.()) event.preventDefault();
        }}
      >
        <DropdownMenu.RadioGroup value={String(chosen)} onValueChange={(to) => onChoose(Number(to))}>
          {choices.map((choice, place) => (
            <DropdownMenu.RadioItem key={place} value={String(place)} className={MENU_ITEM}>
              <DropdownMenu.ItemIndicator className="absolute left-2">•</DropdownMenu.ItemIndicator>
              {choice.label}
              {choice.example ? <span className="font-serif">{choice.example}</span> : null}
            </DropdownMenu.RadioItem>
          ))}
        </DropdownMenu.RadioGroup>
        {further.map(({ label, apart, onSelect }) => (
          <Fragment key={label}>
            {apart ? <DropdownMenu.Separator className="my-1 border-t border-hairline" /> : null}
            <DropdownMenu.Item className={MENU_ITEM} onSelect={onSelect}>
              {label}
            </DropdownMenu.Item>
          </Fragment>
        ))}
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}
