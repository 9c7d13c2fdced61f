import { DropdownMenu } from "radix-ui";
import { useRef } from "react";

import type { WordView } from "../api/client";
import { MENU, MENU_ITEM } from "../ui/menu";
import { LEVELS, same } from "./choosing";

const ANOTHER: Record<NonNullable<WordView["free"]>, string> = {
  currency: "another currency…",
  word: "another word…",
  locale: "another locale…",
  step: "another step…",
  beside: "text…",
  threshold: "▲ ▼, with a threshold for rust…",
  units: "other words…",
  width: "another width…",
};

interface Props {
  word: WordView;
  onChoose: (value: unknown) => void;
  onDrop?: () => void;
  onType?: () => void;
  shown?: string;
  /** What dropping the word is called, where it can always be dropped. */
  drops?: string;
}

/** A word of a sentence: Enter opens it, arrows choose, Escape leaves. */
export function Word({ word, onChoose, onDrop, onType, shown, drops }: Props) {
  const mark = LEVELS.find(({ level }) => level === word.level)?.mark ?? "";
  const at = word.choices.findIndex((choice) => same(choice.value, word.value));
  const name = word.clause.replaceAll("_", " ");
  const typing = useRef(false);
  const exception = word.rule !== null && word.level !== "everywhere" && word.level !== "default";
  return (
    <DropdownMenu.Root modal={false}>
      <DropdownMenu.Trigger
        data-word={word.clause}
        aria-label={`${shown ?? name}: ${word.label}`}
        title={word.rule_name ? `${name}, set by ${word.rule_name}` : undefined}
        className={`rounded-t-sm border-b-3 bg-paper px-1.5 text-left leading-5 font-medium whitespace-normal hover:bg-teal-faint data-[state=open]:bg-teal-wash ${mark}`}
      >
        {shown ?? word.label}
      </DropdownMenu.Trigger>

      <DropdownMenu.Content
        align="start"
        sideOffset={4}
        collisionPadding={8}
        className={MENU}
        aria-label={name}
        onEscapeKeyDown={(event) => event.stopPropagation()}
        onCloseAutoFocus={(event) => {
          // The field that was asked for has the focus by now; the word must not take it back.
          if (typing.current) event.preventDefault();
          typing.current = false;
        }}
      >
        <DropdownMenu.RadioGroup
          value={String(at)}
          onValueChange={(chosen) => onChoose(word.choices[Number(chosen)]?.value)}
        >
          {word.choices.map((choice, place) => (
            <DropdownMenu.RadioItem key={place} value={String(place)} className={MENU_ITEM}>
              <DropdownMenu.ItemIndicator className="absolute left-2">•</DropdownMenu.ItemIndicator>
              {choice.label}
              {choice.example ? <span className="font-serif">{choice.example}</span> : null}
            </DropdownMenu.RadioItem>
          ))}
        </DropdownMenu.RadioGroup>
        {word.free && onType ? (
          <DropdownMenu.Item
            className={MENU_ITEM}
            onSelect={() => {
              typing.current = true;
              onType();
            }}
          >
            {ANOTHER[word.free]}
          </DropdownMenu.Item>
        ) : null}
        {(exception || drops) && onDrop ? (
          <>
            <DropdownMenu.Separator className="my-1 border-t border-hairline" />
            <DropdownMenu.Item className={MENU_ITEM} onSelect={onDrop}>
              {drops ?? "leave it to the broader rule"}
            </DropdownMenu.Item>
          </>
        ) : null}
      </DropdownMenu.Content>
    </DropdownMenu.Root>
  );
}
