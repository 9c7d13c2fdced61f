import { FolderOpen, Redo2, Undo2 } from "lucide-react";
import { DropdownMenu } from "radix-ui";
import { useRef, useState } from "react";

import type { PackName, PackView } from "../api/client";
import type { Deed } from "../api/queries";
import type { Screen } from "../desk/address";
import { Key } from "../ui/Key";
import { MENU, MENU_ITEM } from "../ui/menu";
import { History } from "./History";

interface Props {
  pack: PackView;
  packs: PackName[];
  statement: string;
  act: (deed: Deed) => void;
  onStatement: (id: string) => void;
  onPack: (id: string) => void;
  onTake: (file: File) => void;
  onGo: (screen: Screen) => void;
  screen?: Screen;
}

const WORK: readonly { screen: Screen; name: string }[] = [
  { screen: "figures", name: "Figures" },
  { screen: "rulebook", name: "Rulebook" },
  { screen: "footing", name: "Footing" },
];

const FILES: readonly [string, string][] = [
  ["xlsx", "Workbook (XLSX)"],
  ["html", "Web page (HTML)"],
  ["csv", "Table (CSV)"],
  ["md", "Text (Markdown)"],
  ["txt", "Text, fixed width (TXT)"],
  ["json", "Pack file (JSON)"],
];

/** The pack, its statements with their gaps, files to take away, and what is saved. */
export function Spine(props: Props) {
  const { pack, packs, statement, act, onStatement, onPack, onTake, onGo, screen = "page" } = props;
  const [showHistory, setShowHistory] = useState(false);
  return (
    <nav
      aria-label="Pack"
      className="row-span-3 flex flex-col overflow-y-auto border-r border-hairline bg-panel print:hidden"
    >
      <p className="px-4 pt-3 text-[17px] font-semibold">
        Humble <span className="border-b-3 border-double border-ink">Sum</span>
      </p>
      <PackMenu pack={pack} packs={packs} onPack={onPack} onTake={onTake} />
      <Heading>Statements</Heading>
      <ul>
        {pack.statements.map((each) => (
          <li key={each.id}>
            <button
              type="button"
              aria-current={each.id === statement && screen === "page" ? "page" : undefined}
              className="flex w-full justify-between border-l-3 border-transparent px-3.5 py-1 text-left hover:bg-teal-faint aria-[current]:border-teal aria-[current]:bg-teal-wash aria-[current]:font-semibold"
              onClick={() => onStatement(each.id)}
            >
              {each.name}
              <Found gaps={each.gaps} breaks={each.breaks} />
            </button>
          </li>
        ))}
      </ul>
      <Heading>Work</Heading>
      {WORK.map(({ screen: to, name }) => (
        <button
          key={to}
          type="button"
          aria-current={to === screen ? "page" : undefined}
          className="border-l-3 border-transparent px-3.5 py-1 text-left hover:bg-teal-faint aria-[current]:border-teal aria-[current]:bg-teal-wash aria-[current]:font-semibold"
          onClick={() => onGo(to)}
        >
          {name}
        </button>
      ))}
      <Heading>Take away</Heading>
      <ul>
        {FILES.map(([format, name]) => (
          <li key={format}>
            <a
              className="block px-[17px] py-1 hover:bg-teal-faint"
              href={`/api/packs/${pack.id}/statements/${statement}/files/${format}`}
              download
            >
              {name}
            </a>
          </li>
        ))}
        <li>
          <button
            type="button"
            className="w-full px-[17px] py-1 text-left hover:bg-teal-faint"
            onClick={() => window.print()}
          >
            Print the page
          </button>
        </li>
      </ul>
      <div className="mt-auto space-y-1 px-3 pt-4 pb-3">
        <div className="flex flex-wrap gap-1">
          <Step name="Undo" shortcut="u" what={pack.undo} onClick={() => act("undo")} />
          <Step name="Redo" shortcut="U" what={pack.redo} onClick={() => act("redo")} />
        </div>
        <p className="px-1 text-soft">
          Saved.{" "}
          <button type="button" className="underline hover:text-ink" onClick={() => setShowHistory(true)}>
            {pack.changes_today === 1 ? "1 change" : `${pack.changes_today} changes`} today
          </button>
        </p>
      </div>
      <History pack={pack} open={showHistory} onClose={() => setShowHistory(false)} />
    </nav>
  );
}

function Heading({ children }: { children: string }) {
  return <h2 className="px-4 pt-4 pb-1 text-[12px] font-semibold text-soft">{children}</h2>;
}

function Found({ gaps, breaks }: { gaps: number; breaks: number }) {
  if (gaps + breaks === 0) return <span className="font-normal text-moss">foots</span>;
  const said = [
    gaps > 0 ? `${gaps} ${gaps === 1 ? "gap" : "gaps"}` : "",
    breaks > 0 ? `${breaks} ${breaks === 1 ? "break" : "breaks"}` : "",
  ];
  return <span className="font-semibold text-rust">{said.filter(Boolean).join(", ")}</span>;
}

interface StepProps {
  name: string;
  shortcut: string;
  what: string | null;
  onClick: () => void;
}

function Step({ name, shortcut, what, onClick }: StepProps) {
  const Icon = name === "Undo" ? Undo2 : Redo2;
  return (
    <button
      type="button"
      disabled={what === null}
      title={what ? `${name}: ${what}` : `Nothing to ${name.toLowerCase()}`}
      aria-keyshortcuts={shortcut === "U" ? "Shift+U" : "u"}
      className="flex flex-1 items-center justify-center gap-0.5 rounded-md border border-hairline bg-paper py-1 text-[12.5px] hover:border-teal disabled:bg-panel disabled:text-soft disabled:hover:border-hairline"
      onClick={onClick}
    >
      <Icon size={13} aria-hidden="true" />
      {name}
      <Key>{shortcut}</Key>
    </button>
  );
}

function PackMenu({ pack, packs, onPack, onTake }: Pick<Props, "pack" | "packs" | "onPack" | "onTake">) {
  const picker = useRef<HTMLInputElement>(null);
  return (
    <div className="border-b border-hairline px-2 pt-2 pb-2">
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="w-full rounded-md px-2 py-1 text-left hover:bg-teal-faint">
          <span className="block font-semibold">{pack.entity}</span>
          <span className="block text-soft">{pack.period}</span>
        </DropdownMenu.Trigger>

        <DropdownMenu.Content align="start" className={MENU}>
          <DropdownMenu.RadioGroup value={pack.id} onValueChange={onPack}>
            {packs.map((each) => (
              <DropdownMenu.RadioItem key={each.id} value={each.id} className={MENU_ITEM}>
                {each.entity}, {each.period}
              </DropdownMenu.RadioItem>
            ))}
          </DropdownMenu.RadioGroup>
          <DropdownMenu.Separator className="my-1 border-t border-hairline" />
          <DropdownMenu.Item className={MENU_ITEM} onSelect={() => picker.current?.click()}>
            <span className="flex items-center gap-2">
              <FolderOpen size={14} aria-hidden="true" /> Open a pack file…
            </span>
          </DropdownMenu.Item>
        </DropdownMenu.Content>
      </DropdownMenu.Root>
      <input
        ref={picker}
        type="file"
        accept=".json,application/json"
        aria-label="Pack file"
        tabIndex={-1}
        className="hidden"
        onChange={(event) => {
          const file = event.target.files?.[0];
          if (file) onTake(file);
          event.target.value = "";
        }}
      />
    </div>
  );
}
