import { Redo2, Undo2 } from "lucide-react";

import { useFormats } from "../api/formats";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Screen } from "../pack/address";
import { useOthers } from "../review/Together";
import { Key } from "../ui/Key";
import { Editions } from "./Editions";
import { PackMenu } from "./PackMenu";

const WORK: readonly { screen: Screen; name: string }[] = [
  { screen: "figures", name: "Figures" },
  { screen: "rulebook", name: "Rulebook" },
  { screen: "footing", name: "Footing" },
  { screen: "places", name: "Places" },
  { screen: "documents", name: "Documents" },
  { screen: "issue", name: "Issue" },
];

/** The pack, its statements with their gaps, files to take away, and what is saved. */
export function Spine() {
  const { pack, address } = usePack();
  const { act, go } = usePackControls();
  const { screen } = address;
  return (
    <nav
      aria-label="Pack"
      className="relative row-span-3 flex flex-col overflow-y-auto border-r border-hairline bg-panel print:hidden"
    >
      <p className="px-4 pt-3 text-[17px] font-semibold">
        Humble <span className="border-b-3 border-double border-ink">Sum</span>
      </p>
      <PackMenu />
      <AllPacks />
      <Others />
      <Heading>Statements</Heading>
      <Statements />
      <Heading>Work</Heading>
      {WORK.map(({ screen: to, name }) => (
        <button
          key={to}
          type="button"
          aria-current={to === screen ? "page" : undefined}
          className="border-l-3 border-transparent px-3.5 py-1 text-left hover:bg-teal-faint aria-[current]:border-teal aria-[current]:bg-teal-wash aria-[current]:font-semibold"
          onClick={() => go({ screen: to })}
        >
          {name}
        </button>
      ))}
      <Heading>Editions</Heading>
      <Editions />
      <TakeAway />
      <div className="mt-auto space-y-1 px-3 pt-4 pb-3">
        <div className="flex flex-wrap gap-1">
          <Step name="Undo" shortcut="u" what={pack.undo} onClick={() => act("undo")} />
          <Step name="Redo" shortcut="U" what={pack.redo} onClick={() => act("redo")} />
        </div>
        <p className="px-1 text-soft">
          Saved.{" "}
          <button
            type="button"
            className="underline hover:text-ink"
            onClick={() => go({ screen: "history" })}
          >
            {pack.changes_today === 1 ? "1 change" : `${pack.changes_today} changes`} today
          </button>
        </p>
      </div>
    </nav>
  );
}

/** The way to all packs, where there are several. */
function AllPacks() {
  const { packs, address } = usePack();
  const { go } = usePackControls();
  if (packs.length < 2) return null;
  return (
    <button
      type="button"
      aria-current={address.screen === "group" ? "page" : undefined}
      className="border-l-3 border-transparent px-3.5 py-1 text-left hover:bg-teal-faint aria-[current]:border-teal aria-[current]:bg-teal-wash aria-[current]:font-semibold"
      onClick={() => go({ screen: "group" })}
    >
      All {packs.length} packs
    </button>
  );
}

/** Who else is at the pack. */
function Others() {
  const others = useOthers();
  if (others.length === 0) return null;
  return (
    <p className="px-4 pt-1 text-[12px] text-plum">
      {others.slice(0, 3).join(", ")}
      {others.length > 3 ? ` and ${others.length - 3} more` : ""} {others.length === 1 ? "is" : "are"} here
    </p>
  );
}

/** Files of the statement in hand, closed until it is asked for. */
function TakeAway() {
  const { pack, statement } = usePack();
  const formats = useFormats("statement");
  return (
    <details className="pt-3">
      <summary className="cursor-pointer px-4 pb-1 text-[12px] font-semibold text-soft">Download</summary>
      <ul>
        {formats.map(({ name, label, extension, keeps }) => (
          <li key={name}>
            <a
              className="flex justify-between gap-2 px-[17px] py-1 hover:bg-teal-faint"
              href={`/api/packs/${pack.id}/statements/${statement}/files/${name}`}
              title={`Keeps: ${keeps}`}
              download
            >
              {label} <span className="text-soft">{extension.toUpperCase()}</span>
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
    </details>
  );
}

function Heading({ children }: { children: string }) {
  return <h2 className="px-4 pt-4 pb-1 text-[12px] font-semibold text-soft">{children}</h2>;
}

/** Every statement with what does not foot: as it is kept, and below it as it would be on trial. */
function Statements() {
  const { pack, statement, address, trial } = usePack();
  const { go } = usePackControls();
  return (
    <ul>
      {pack.statements.map(({ id, name, gaps, breaks, points, signed }) => {
        const here = id === statement && address.screen === "page";
        const tried = trial?.view.by_statement[id];
        return (
          <li key={id}>
            <button
              type="button"
              aria-current={here ? "page" : undefined}
              className="flex w-full justify-between border-l-3 border-transparent px-3.5 py-1 text-left hover:bg-teal-faint aria-[current]:border-teal aria-[current]:bg-teal-wash aria-[current]:font-semibold"
              onClick={() => go({ screen: "page", statement: id, place: here ? address.place : null })}
            >
              {name}
              <span className="text-right">
                <Found gaps={gaps} breaks={breaks} />
                {points > 0 ? (
                  <span className="block text-[12px] font-semibold text-plum">
                    {points === 1 ? "1 point" : `${points} points`}
                  </span>
                ) : null}
                {signed.length > 0 ? (
                  <span className="block text-[12px] font-normal text-moss">{signed.join(", ")}</span>
                ) : null}
                {tried === undefined || tried === gaps ? null : (
                  <span
                    className={`block text-[12px] font-normal ${tried === 0 ? "text-moss" : "text-rust"}`}
                  >
                    {tried === 0 ? "foots" : gapsSaid(tried)} on trial
                  </span>
                )}
              </span>
            </button>
          </li>
        );
      })}
    </ul>
  );
}

function gapsSaid(gaps: number): string {
  return gaps === 1 ? "1 gap" : `${gaps} gaps`;
}

function Found({ gaps, breaks }: { gaps: number; breaks: number }) {
  if (gaps + breaks === 0) return <span className="font-normal text-moss">foots</span>;
  const said = [
    gaps > 0 ? gapsSaid(gaps) : "",
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
