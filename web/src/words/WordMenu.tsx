import { DropdownMenu } from "radix-ui";
import type { ReactNode } from "react";

import { MENU, MENU_ITEM } from "../ui/menu";

interface Choice {
  label: string;
  example?: string;
}

interface Said {
  /** What the word is about, as screen readers name it. */
  name: string;
  label: string;
  /** What stands there in place of the label. */
  shown?: string | undefined;
  hint?: string | undefined;
  mark?: string | undefined;
  clause?: string | undefined;
}

interface Props {
  word: Said;
  choices: readonly Choice[];
  chosen: number;
  onChoose: (place: number) => void;
  /** Whether another control has taken the focus by the time the menu closes. */
  keepsFocus?: () => boolean;
  children?: ReactNode;
}

/** A word that opens: Enter opens it, arrows choose, Escape leaves. Further ways stand below its choices. */
export function WordMenu(props: Props) {
  const { choices, chosen, onChoose } = props;
  const { name, label, shown, hint, mark = "border-hairline", clause } = props.word;
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        data-word={clause}
        aria-label={`${shown ?? name}: ${label}`}
        title={hint}
        className={`rounded-t-sm border-b-3 bg-paper px-1.5 text-left leading-5 font-medium whitespace-normal hover:bg-teal-faint data-[state=open]:bg-teal-wash ${mark}`}
      >
        {shown ?? label}
      </DropdownMenu.Trigger>

      <DropdownMenu.Content
        align="start"
        sideOffset={4}
        collisionPadding={8}
        className={MENU}
        aria-label={name}
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
        {props.children}
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}

/** A further way at the end of a word's menu. */
export function Further({ children, onSelect }: { children: string; onSelect: () => void }) {
  return (
    <DropdownMenu.Item className={MENU_ITEM} onSelect={onSelect}>
      {children}
    </DropdownMenu.Item>
  );
}

export function Rule() {
  return <DropdownMenu.Separator className="my-1 border-t border-hairline" />;
}
