import { useState } from "react";

import type { FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";

const SMALL = "px-2! py-0.5!";
type Tagging = FigureView["tagging"];

/** What the line is tagged with where figures go out as Inline XBRL, and the taxonomies that may name it. */
export function Tags({ tagging }: { tagging: Tagging }) {
  return (
    <details>
      <summary className="cursor-pointer text-[12px] font-semibold text-soft">Tags</summary>
      <div className="space-y-3 pt-2">
        <Timing tagging={tagging} />
        <Concept tagging={tagging} />
        <Taxonomies tagging={tagging} />
      </div>
    </details>
  );
}

/** Whether the amounts are at a day or over a time: of the line, and of its whole statement. */
function Timing({ tagging }: { tagging: Tagging }) {
  const { keep } = usePackControls();
  return (
    <label className="block">
      <span className="text-soft">At a day, or over a time</span>
      <select
        className="mt-0.5 w-full rounded-sm border border-hairline bg-paper px-1.5 py-1"
        value={tagging.timing.findIndex((each) => each.chosen)}
        onChange={(event) => {
          const chosen = tagging.timing[Number(event.target.value)];
          if (chosen) keep(chosen.change);
        }}
      >
        {tagging.timing.map((each, n) => (
          <option key={each.says} value={n}>
            {each.says}
          </option>
        ))}
      </select>
    </label>
  );
}

function Concept({ tagging }: { tagging: Tagging }) {
  const { keep } = usePackControls();
  const { change, taxonomies } = tagging;
  const [concept, setConcept] = useState(tagging.concept ?? "");
  const [negated, setNegated] = useState(tagging.negated);
  const named = concept.trim();
  const first = taxonomies[0]?.prefix;
  return (
    <form
      className="space-y-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        keep({ ...change, concept: named || null, negated });
      }}
    >
      <p className="text-soft">
        Tagged as {tagging.concept ?? "its own concept"}
        {tagging.negated ? ", with the other sign" : ""}.
      </p>
      {first === undefined ? (
        <p className="text-soft">Name a taxonomy to tag it with one of its concepts.</p>
      ) : (
        <>
          <Field
            label="Concept of another taxonomy"
            value={concept}
            placeholder={`${first}:Name`}
            onChange={setConcept}
          />
          <label className="flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-teal"
              checked={negated}
              onChange={() => setNegated(!negated)}
            />
            Stated with the other sign
          </label>
          <Button type="submit" className={SMALL}>
            {named ? "Tag the line" : "Tag it with its own"}
          </Button>
        </>
      )}
    </form>
  );
}

const NONE = { prefix: "", namespace: "", schema_at: "" };

function Taxonomies({ tagging }: { tagging: Tagging }) {
  const { keep } = usePackControls();
  const { naming, taxonomies } = tagging;
  const [made, setMade] = useState(NONE);
  const filled = Object.values(made).every((text) => text.trim());
  const write = (name: keyof typeof NONE) => (text: string) => setMade({ ...made, [name]: text });
  return (
    <form
      className="space-y-1.5"
      onSubmit={(event) => {
        event.preventDefault();
        const one = {
          prefix: made.prefix.trim(),
          namespace: made.namespace.trim(),
          schema_at: made.schema_at.trim(),
        };
        if (filled) keep({ ...naming, taxonomies: [...taxonomies, one] }, () => setMade(NONE));
      }}
    >
      {taxonomies.map((each) => (
        <p key={each.prefix} className="flex items-center gap-2">
          <span className="min-w-0 flex-1 break-words">
            <b>{each.prefix}</b> {each.namespace}
          </span>
          <Button
            className={SMALL}
            aria-label={`Remove the taxonomy ${each.prefix}`}
            onClick={() => keep({ ...naming, taxonomies: taxonomies.filter((other) => other !== each) })}
          >
            Remove
          </Button>
        </p>
      ))}
      <Field
        label="Another taxonomy's prefix"
        value={made.prefix}
        placeholder="gaap"
        onChange={write("prefix")}
      />
      <Field
        label="Its namespace"
        value={made.namespace}
        placeholder="https://…"
        onChange={write("namespace")}
      />
      <Field
        label="The schema it begins with"
        value={made.schema_at}
        placeholder="https://….xsd"
        onChange={write("schema_at")}
      />
      <Button type="submit" className={SMALL} disabled={!filled}>
        Name it
      </Button>
    </form>
  );
}
