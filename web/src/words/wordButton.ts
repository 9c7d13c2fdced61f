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

/** A way that stands below the choices, `apart` from what is above it. */
interface Further {
  label: string;
  apart?: boolean;
  onSelect: () => void;
}

export interface WordMenuProps {
  word: Said;
  choices: readonly Choice[];
  chosen: number;
  onChoose: (place: number) => void;
  further?: readonly Further[];
  /** Whether another control has taken the focus by the time the menu closes. */
  keepsFocus?: () => boolean;
}

/** The button that a word is, open or not. */
export function wordButton({ name, label, shown, hint, mark = "border-hairline", clause }: Said) {
  return {
    type: "button",
    "data-word": clause,
    "aria-label": `${shown ?? name}: ${label}`,
    title: hint,
    className: `rounded-t-sm border-b-3 bg-paper px-1.5 text-left leading-5 font-medium whitespace-normal hover:bg-teal-faint data-[state=open]:bg-teal-wash ${mark}`,
  } as const;
}
