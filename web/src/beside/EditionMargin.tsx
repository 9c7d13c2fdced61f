import type { EditionView } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Words } from "../words/Words";
import { Rates } from "./Rates";

interface Props {
  editions: EditionView[];
  other: EditionView | undefined;
  differences: string[];
}

/** What is said only in each edition, its rates, and what differs between the two in view. */
export function EditionMargin({ editions, other, differences }: Props) {
  const { pack } = usePack();
  const { go } = usePackControls();
  const others = editions.filter((each) => each.id !== pack.edition && each.id !== other?.id);
  return (
    <>
      {other ? (
        <section aria-labelledby="differences">
          <h2 id="differences" className="mb-1 font-semibold">
            Differences other than scale
          </h2>
          {differences.length === 0 ? <p className="text-soft">There are none.</p> : null}
          <ul className="space-y-1">
            {differences.slice(0, 24).map((said) => (
              <li key={said}>{said}</li>
            ))}
          </ul>
          {differences.length > 24 ? <p className="text-soft">and {differences.length - 24} more</p> : null}
        </section>
      ) : null}
      {editions.map((edition) => (
        <OnlyIn key={edition.id} edition={edition} />
      ))}
      {others.length > 0 ? (
        <section aria-label="Other editions" className="space-y-1">
          {others.map((each) => (
            <Button key={each.id} className="w-full" onClick={() => go({ beside: each.id })}>
              Put {each.name} beside
            </Button>
          ))}
        </section>
      ) : null}
    </>
  );
}

function OnlyIn({ edition }: { edition: EditionView }) {
  const { act, keep, go } = usePackControls();
  const { pack } = usePack();
  const own = edition.remove === null;
  if (own && edition.rules.length === 0) return null;
  const selected = edition.id === pack.edition;
  return (
    <section aria-label={`Only in ${edition.name}`}>
      <h2 className="mb-1 font-semibold">Only in {edition.name}</h2>
      {edition.rules.map((rule) => (
        <p key={rule.rule} className="sentence leading-7">
          {edition.rules.length > 1 ? <span className="text-soft">{rule.name}: </span> : null}
          <Words words={rule.sentence} act={act} />
        </p>
      ))}
      <p className="text-soft">
        {edition.rules.length === 0 ? "Nothing yet. " : "Everything else is as in the pack. "}
        {selected
          ? "Changes here affect only this edition."
          : "Open it to change more. Changes there affect only this edition."}
      </p>
      {edition.notes.map((note) => (
        <p key={note} className="pt-1 text-rust">
          {note}
        </p>
      ))}
      {edition.ways.map(({ label, change }) => (
        <Button key={label} className="mt-1 text-left whitespace-normal!" onClick={() => act(change)}>
          {label}
        </Button>
      ))}
      {edition.currency && !own ? <Rates edition={edition} /> : null}
      {edition.remove ? (
        <>
          <label className="mt-1 flex items-center gap-2">
            <input
              type="checkbox"
              className="accent-teal"
              checked={edition.any_language}
              onChange={() => keep({ ...edition.edit, any_language: !edition.any_language })}
            />
            Figures in each reader’s own language
          </label>
          <div className="mt-1 flex gap-2">
            {selected ? null : (
              <Button onClick={() => go({ pack: edition.address, beside: pack.edition })}>
                Switch to it
              </Button>
            )}
            <Button
              onClick={() => {
                const { remove } = edition;
                if (remove) keep(remove, () => go({ pack: pack.code }));
              }}
            >
              Remove it
            </Button>
          </div>
        </>
      ) : null}
    </section>
  );
}
