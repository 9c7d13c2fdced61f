import { useState } from "react";

import type { IssuePage, Since } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";
import { showFigure } from "../pack/focus";
import { Button } from "../ui/Button";

const SHOWN = 8;

/** What prints otherwise than in the last issue, and why. */
export function SinceIssue({ since }: { since: Since }) {
  const { go } = usePackControls();
  const [all, setAll] = useState(false);
  const { differences, changed, same } = since;
  const listed = all ? differences : differences.slice(0, SHOWN);
  return (
    <section aria-labelledby="since">
      <h2 id="since" className="flex justify-between text-[12px] font-semibold text-soft">
        Since issue {since.number} <span className="font-normal">{since.made.slice(0, 10)}</span>
      </h2>
      {listed.length > 0 ? (
        <ul className="mt-1 rounded-md border border-hairline bg-paper">
          {listed.map(({ figure, name, says }) => {
            const [statement = "", line = "", column = ""] = figure;
            return (
              <li key={figure.join("/")} className="border-b border-hairline last:border-0">
                <button
                  type="button"
                  className="w-full px-3 py-1.5 text-left hover:bg-teal-faint"
                  onClick={() => {
                    go({ screen: "page", statement, place: { line, column } });
                    showFigure({ line, column });
                  }}
                >
                  <span className="block font-semibold">{name}</span>
                  <span className="text-soft">{says}</span>
                </button>
              </li>
            );
          })}
        </ul>
      ) : null}
      {differences.length > SHOWN ? (
        <Button className="mt-1" onClick={() => setAll(!all)}>
          {all ? "Fewer" : `All ${differences.length}`}
        </Button>
      ) : null}
      <p className="pt-1 text-soft">
        {changed === 1 ? "1 figure prints" : `${changed} figures print`} differently, {same} as before. The
        rules {since.rules_changed ? "changed." : "did not change."}
      </p>
    </section>
  );
}

/** What went out before: each as its readers got it, its container, and a way to take it back. */
export function IssuedBefore({
  issued,
  onWithdraw,
}: {
  issued: IssuePage["issued"];
  onWithdraw: (number: number, why: string) => void;
}) {
  return (
    <section aria-labelledby="issued">
      <h2 id="issued" className="text-[12px] font-semibold text-soft">
        Issued before
      </h2>
      {issued.length === 0 ? <p className="text-soft">This edition has not been issued yet.</p> : null}
      <ul className="mt-1 space-y-2">
        {issued.map((each) => (
          <OneIssue key={each.number} of={each} onWithdraw={(why) => onWithdraw(each.number, why)} />
        ))}
      </ul>
    </section>
  );
}

function OneIssue({
  of,
  onWithdraw,
}: {
  of: IssuePage["issued"][number];
  onWithdraw: (why: string) => void;
}) {
  const { pack } = usePack();
  const [why, setWhy] = useState("");
  const at = `/api/packs/${encodeURIComponent(pack.id)}/issues/${of.number}`;
  const page = of.files.find((file) => file.name === "edition.html");
  return (
    <li className="rounded-md border border-hairline bg-paper px-3 py-1.5">
      <p className="font-semibold">
        {of.number}, to {of.recipients}
      </p>
      <p className="text-soft">
        {of.made.slice(0, 10)}, {of.state}, {of.files.length} files, by {of.prepared_by}
      </p>
      <p className="text-[12px] text-soft">
        SHA-256 of its container:{" "}
        <code className="break-all select-all text-[11px] text-ink">{of.digest}</code>
      </p>
      {of.withdrawn ? (
        <p className="text-rust">
          Withdrawn{of.withdrawn_by ? ` by ${of.withdrawn_by}` : ""}: {of.withdrawn}
          {of.replaced ? ` Replaced by ${of.replaced}.` : ""}
        </p>
      ) : null}
      <p className="flex gap-3">
        {page ? (
          <a
            className="text-teal underline"
            href={`${at}/files/edition.html`}
            target="_blank"
            rel="noreferrer"
          >
            As it went out
          </a>
        ) : null}
        <a className="text-teal underline" href={`${at}/container`} download>
          Container
        </a>
      </p>
      {of.withdrawn ? null : (
        <details>
          <summary className="cursor-pointer text-soft">Withdraw it</summary>
          <form
            className="flex gap-2 pt-1"
            onSubmit={(event) => {
              event.preventDefault();
              if (why.trim()) onWithdraw(why);
            }}
          >
            <input
              aria-label={`Why issue ${of.number} is withdrawn`}
              value={why}
              placeholder="why"
              maxLength={500}
              className="min-w-0 flex-1 border-b border-rust px-1"
              onChange={(event) => setWhy(event.target.value)}
            />
            <Button type="submit" disabled={!why.trim()}>
              Withdraw
            </Button>
          </form>
        </details>
      )}
    </li>
  );
}
