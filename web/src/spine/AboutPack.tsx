import { useState } from "react";

import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { addStatement, editPack } from "../pack/formCommands";

/** Whose the pack is, its period and currency, and a statement to add. */
export function AboutPack({ onClose }: { onClose: () => void }) {
  const { pack } = usePack();
  const { keep } = usePackControls();
  const [entity, setEntity] = useState(pack.entity);
  const [period, setPeriod] = useState(pack.period);
  const [currency, setCurrency] = useState("");
  const [language, setLanguage] = useState("");
  const [name, setName] = useState("");
  return (
    <Sheet open onClose={onClose} title="About this pack" says="Whose it is, and what it covers.">
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!entity.trim() || !period.trim()) return;
          const code = currency.trim().toUpperCase();
          keep(
            editPack({
              entity: entity.trim(),
              period: period.trim(),
              ...(code ? { currency: code } : {}),
              ...(language.trim() ? { language: language.trim() } : {}),
            }),
            onClose,
          );
        }}
      >
        <Field label="Entity" value={entity} placeholder="whose it is" onChange={setEntity} />
        <Field label="Period" value={period} placeholder="year to 31 March 2026" onChange={setPeriod} />
        <Field
          label="Currency, to change it"
          value={currency}
          placeholder="ISO 4217 code"
          onChange={setCurrency}
        />
        <Field
          label="Language of its labels"
          value={language}
          placeholder="a tag such as en, hi or pt-BR"
          onChange={setLanguage}
        />
        <Button main type="submit">
          Keep
        </Button>
      </form>
      <form
        className="mt-5 space-y-3 border-t border-hairline pt-3"
        onSubmit={(event) => {
          event.preventDefault();
          if (!name.trim()) return;
          keep(addStatement(name.trim()), onClose);
        }}
      >
        <Field label="Another statement" value={name} placeholder="its name" onChange={setName} />
        <Button type="submit" disabled={!name.trim()}>
          Add it
        </Button>
      </form>
    </Sheet>
  );
}
