import { useState } from "react";

import type { DashboardView, FindingView, ItemView } from "../api/client";
import { useFormats } from "../api/formats";
import { useItemWords } from "../api/places";
import { usePackControls, usePack } from "../pack/OpenPack";
import { PageSignatures } from "../review/PageSignatures";
import { PointsHere } from "../review/PointsHere";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Words } from "../words/Words";
import { FigurePlaces } from "../margin/FigurePlaces";
import { Disagreement } from "./Disagreement";
import { placeItem } from "../pack/formCommands";

interface Props {
  view: DashboardView;
  item: ItemView;
  onEdit: (item: string) => void;
}

/** The item in hand: what does not agree first, then where its figure is printed, and what it shows. */
export function ItemMargin({ view, item, onEdit }: Props) {
  const { act } = usePackControls();
  const findings = view.findings.filter((each) => each.item === item.id);
  const formats = useFormats("chart");
  const figure = findings[0]?.figure ?? figureOf(item);
  return (
    <>
      {findings.map((finding, place) => (
        <Disagreement key={place} finding={finding} first={place === 0} />
      ))}
      {figure ? <FigurePlaces figure={figure} sort={item.kind} /> : null}
      {item.kind === "passage" ? <Marks item={item} findings={findings} onEdit={onEdit} /> : null}
      <Said view={view} item={item} />
      <Named key={item.id} view={view} item={item} />
      <section aria-label="Where it stands" className="flex flex-wrap gap-1.5">
        {(
          [
            ["earlier", "Earlier", "<"],
            ["later", "Later", ">"],
            ["narrower", "Narrower", "["],
            ["wider", "Wider", "]"],
          ] as const
        ).map(([name, label, key]) => (
          <Button
            key={name}
            className="px-2! py-0.5!"
            shortcut={key}
            disabled={item.commands[name] === null}
            onClick={() => {
              const change = item.commands[name];
              if (change) act(change);
            }}
          >
            {label}
          </Button>
        ))}
        <Button className="px-2! py-0.5!" shortcut="x" onClick={() => act(item.commands.remove)}>
          Remove it
        </Button>
      </section>
      <PointsHere
        key={`points ${item.id}`}
        subjects={[
          { on: { dashboard: view.id, item: item.id }, name: item.label },
          { on: { dashboard: view.id }, name: `all of ${view.name}` },
        ]}
      />
      <PageSignatures dashboard={view.id} name={view.name} />
      {item.kind === "chart" && !item.fault ? (
        <p className="flex gap-4">
          {formats.map(({ name, label, extension }) => (
            <a
              key={name}
              className="underline"
              download
              href={`/api/packs/${packHere()}/dashboards/${view.id}/files/${name}?item=${item.id}`}
            >
              {label} ({extension.toUpperCase()})
            </a>
          ))}
        </p>
      ) : null}
    </>
  );
}

/** What an item shows, or how often it stands, as a sentence. */
function Said({ view, item }: { view: DashboardView; item: ItemView }) {
  const { pack } = usePack();
  const { act } = usePackControls();
  const { data } = useItemWords(pack, view, item.id);
  return (
    <section aria-labelledby="item">
      <h2 id="item" className="mb-1 text-[12px] font-semibold text-soft">
        This {item.kind}
      </h2>
      <p className="sentence leading-7">{data ? <Words words={data} act={act} /> : null}</p>
    </section>
  );
}

/** The pack as the address has it. */
function packHere(): string {
  return window.location.pathname.split("/")[2] ?? "";
}

function figureOf(item: ItemView): string[] | null {
  if (item.kind === "tile") return item.shows.figure;
  if (item.kind === "chart") {
    const line = item.item.total ?? item.item.lines[0];
    const column = item.item.columns.at(-1);
    return item.fault || !line || !column ? null : [item.item.statement, line, column];
  }
  const pieces = item.blocks.flatMap((block) => (block.kind === "text" ? block.pieces : []));
  return pieces.find((piece) => piece.figure)?.figure ?? null;
}

interface MarksProps {
  item: Extract<ItemView, { kind: "passage" }>;
  findings: FindingView[];
  onEdit: (item: string) => void;
}

/** What is said of each figure of a passage, and the way to write it. */
function Marks({ item, findings, onEdit }: MarksProps) {
  const { act } = usePackControls();
  const said = item.blocks
    .flatMap((block) => (block.kind === "text" ? block.pieces : []))
    .filter((piece) => piece.agrees?.standing === "agrees" && piece.agrees.says);
  return (
    <section aria-label="The passage" className="space-y-1.5">
      <Button shortcut="w" onClick={() => onEdit(item.id)}>
        Write
      </Button>
      {said.length > 0 && findings.length === 0 ? (
        <h2 className="pt-1 text-[12px] font-semibold text-soft">How its figures print</h2>
      ) : null}
      <ul className="space-y-1">
        {said.slice(0, 12).map((piece, place) => (
          <li key={place}>
            <bdi className="font-serif">{piece.text}</bdi>: {piece.agrees?.says}
            {piece.agrees?.ways.map((way) => (
              <button
                key={way.label}
                type="button"
                className="ml-1 underline"
                onClick={() => act(way.change)}
              >
                {way.label}
              </button>
            ))}
          </li>
        ))}
      </ul>
    </section>
  );
}

/** What the item is called, and what a tile's comparison and target are. */
function Named({ view, item }: { view: DashboardView; item: ItemView }) {
  const { keep } = usePackControls();
  const tile = item.kind === "tile" ? item.item : null;
  const [label, setLabel] = useState(item.label);
  const [against, setAgainst] = useState(tile?.against ?? "");
  const [target, setTarget] = useState(tile?.target ?? "");
  const put = (changed: object) => keep(placeItem(view.id, { ...item.item, ...changed }));
  return (
    <section aria-label="Its words" className="space-y-2">
      <Field
        label="Called"
        value={label}
        placeholder="a name"
        onChange={setLabel}
        onBlur={() => {
          if (label.trim() && label !== item.label) put({ label: label.trim() });
        }}
      />
      {tile?.compare ? (
        <Field
          label="The comparison in words"
          value={against}
          placeholder="on last year"
          onChange={setAgainst}
          onBlur={() => {
            if (against !== tile.against) put({ against });
          }}
        />
      ) : null}
      {tile ? (
        <Field
          label="Target, exact amount"
          value={target}
          placeholder="no target"
          onChange={setTarget}
          onBlur={() => {
            if (target.trim() !== (tile.target ?? "")) put({ target: target.trim() || null });
          }}
        />
      ) : null}
    </section>
  );
}
