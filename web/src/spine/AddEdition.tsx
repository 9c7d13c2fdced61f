import { useState } from "react";

import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { addEdition } from "../pack/formCommands";

interface Props {
  onClose: () => void;
}

/** A new edition: what it is called, and the currency it is translated to where it is another one. What it
 * says otherwise and its rates are said beside it. */
export function AddEdition({ onClose }: Props) {
  const { pack } = usePack();
  const { keep, go } = usePackControls();
  const [name, setName] = useState("");
  const [currency, setCurrency] = useState("");
  function add() {
    const code = currency.trim().toUpperCase();
    keep(addEdition(name.trim(), code || null), () => {
      onClose();
      go({ screen: "beside", beside: "" });
    });
  }
  return (
    <Sheet
      open
      onClose={onClose}
      title="Another edition"
      says="The same figures for other readers, with its own rules and its own footing."
    >
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          add();
        }}
      >
        <Field label="Called" value={name} placeholder="such as Board" onChange={setName} />
        <Field
          label="Translated to"
          value={currency}
          placeholder="a currency code such as EUR; nothing for the pack’s own"
          onChange={setCurrency}
        />
        {pack.editions.some((each) => each.name === name.trim()) ? (
          <p className="text-rust">There is an edition of this name already.</p>
        ) : null}
        <Button main type="submit" disabled={!name.trim()}>
          Add the edition
        </Button>
      </form>
    </Sheet>
  );
}
