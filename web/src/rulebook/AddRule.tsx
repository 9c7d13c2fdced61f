import { useLayoutEffect, useRef, useState } from "react";

import type { RulebookView } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { WordMenu } from "../words/WordMenu";
import { addRule } from "../pack/formCommands";

const PLACES = ["page", "tile", "chart", "passage"] as const;

interface Props {
  kinds: RulebookView["kinds"];
  onClose: () => void;
}

/** A new rule: what it is called and where it applies; its words come after. */
export function AddRule({ kinds, onClose }: Props) {
  const { pack, statement } = usePack();
  const { tryOut } = usePackControls();
  const [name, setName] = useState("");
  const [where, setWhere] = useState("");
  const [kind, setKind] = useState("");
  const [place, setPlace] = useState("");
  const [edition, setEdition] = useState("");
  const form = useRef<HTMLFormElement>(null);
  useLayoutEffect(() => form.current?.querySelector("input")?.focus(), []);
  return (
    <form
      ref={form}
      className="space-y-2 rounded-lg border-2 border-teal bg-paper p-3.5"
      onSubmit={(event) => {
        event.preventDefault();
        if (!name.trim()) return;
        const reach = {
          statement: where || null,
          kind: kinds.find((each) => each === kind) ?? null,
          statements: [],
          lines: [],
          places: PLACES.filter((each) => each === place),
          editions: edition ? [edition] : [],
        };
        onClose();
        tryOut(addRule({ statement, name: name.trim(), reach }));
      }}
    >
      <Field label="Name of the rule" value={name} onChange={setName} placeholder="Lines of kind per unit" />
      <div className="flex flex-wrap gap-4">
        <Choice
          label="Statements"
          value={where}
          options={[["", "everywhere"], ...pack.statements.map((s): [string, string] => [s.id, s.name])]}
          onChange={setWhere}
        />
        <Choice
          label="Lines"
          value={kind}
          options={[
            ["", "of every kind"],
            ...kinds.map((each): [string, string] => [each, `of kind ${each.replaceAll("_", " ")}`]),
          ]}
          onChange={setKind}
        />
        <Choice
          label="Places"
          value={place}
          options={[
            ["", "wherever it prints"],
            ...PLACES.map((each): [string, string] => [each, `on ${each}s`]),
          ]}
          onChange={setPlace}
        />
        <Choice
          label="Editions"
          value={edition}
          options={[
            ["", "every edition"],
            ...pack.editions.map((each): [string, string] => [each.id, each.name]),
          ]}
          onChange={setEdition}
        />
      </div>
      <p className="text-soft">
        For a column, a line or one figure, change a word on the page and choose where it applies.
      </p>
      <div className="flex gap-2">
        <Button main type="submit" className="px-2! py-0.5!">
          Add it
        </Button>
        <Button className="px-2! py-0.5!" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

interface ChoiceProps {
  label: string;
  value: string;
  options: [string, string][];
  onChange: (value: string) => void;
}

function Choice({ label, value, options, onChange }: ChoiceProps) {
  const at = options.findIndex(([id]) => id === value);
  return (
    <p className="text-[12px] font-semibold text-soft">
      {label}{" "}
      <WordMenu
        word={{ name: label, label: options[at]?.[1] ?? "", clause: label }}
        choices={options.map(([, said]) => ({ label: said }))}
        chosen={at}
        onChoose={(place) => {
          const chosen = options[place];
          if (chosen) onChange(chosen[0]);
        }}
      />
    </p>
  );
}
