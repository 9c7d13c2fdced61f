import type { RulebookView } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { takeRulebook } from "../pack/formCommands";

/** House styles to start from, and rulebook files in and out. */
export function Styles({ styles }: Pick<RulebookView, "styles">) {
  const { pack, statement } = usePack();
  const { tryOut, setProblem } = usePackControls();
  const use = (file: File) =>
    void file.text().then((text) => {
      try {
        const rulebook = JSON.parse(text) as Record<string, unknown>;
        tryOut(takeRulebook(statement, rulebook));
      } catch {
        setProblem({
          type: "about:blank",
          title: "This is not a rulebook",
          status: 422,
          detail: `${file.name} is not JSON.`,
          faults: [],
        });
      }
    });
  return (
    <section aria-label="Styles and files" className="flex flex-wrap items-center gap-2 pt-2">
      <span className="text-soft">Start from a house style:</span>
      {styles.map((style) => (
        <Button key={style.id} className="px-2! py-0.5!" onClick={() => tryOut(style.change)}>
          {style.label}
        </Button>
      ))}
      <a
        className="rounded-md border border-hairline bg-paper px-2 py-0.5 font-medium hover:border-teal"
        href={`/api/packs/${pack.id}/rulebook/file`}
        download
      >
        Rulebook file
      </a>
      <label className="relative rounded-md border border-hairline bg-paper px-2 py-0.5 font-medium focus-within:outline-2 hover:border-teal">
        Use a rulebook file…
        <input
          type="file"
          accept=".json,application/json"
          className="sr-only"
          onChange={(event) => {
            const chosen = event.target.files?.[0];
            if (chosen) use(chosen);
            event.target.value = "";
          }}
        />
      </label>
    </section>
  );
}
