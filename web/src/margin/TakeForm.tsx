import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { FigureView, PackName } from "../api/client";
import { api, Refusal, taken } from "../api/client";
import { packQuery, proofQuery } from "../api/queries";
import { usePack, usePackControls } from "../pack/OpenPack";
import type { FigureRef } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";

interface Props {
  figure: FigureView;
  statement: string;
  others: PackName[];
  onClose: () => void;
}

interface Chosen {
  rate: string;
  share: string;
}

const NONE: Chosen = { rate: "", share: "" };
const SELECT =
  "mt-0.5 block w-full rounded-sm border border-hairline bg-paper px-1 py-1 text-[13.5px] font-normal text-ink";

/** Asks which packs a figure is to be taken from, which figure it is there, by what rate and share, and how. */
export function TakeForm({ figure, statement, others, onClose }: Props) {
  const { pack } = usePack();
  const { act, setProblem } = usePackControls();
  const [chosen, setChosen] = useState<ReadonlyMap<string, Chosen>>(new Map());
  const [printed, setPrinted] = useState(false);
  const [theirs, setTheirs] = useState<FigureRef>([statement, figure.line, figure.column]);
  const first = others.find((each) => chosen.has(each.id));
  const set = (id: string, to: Chosen | null) =>
    setChosen((before) => {
      const after = new Map(before);
      if (to) after.set(id, to);
      else after.delete(id);
      return after;
    });
  const take = async () => {
    const sources = others.flatMap(({ id, entity, period }) => {
      const of = chosen.get(id);
      const way = printed ? ("as_printed" as const) : ("amount" as const);
      const by = { rate: of?.rate.trim() ?? "", share: of?.share.trim() ?? "" };
      return of
        ? [
            {
              entity,
              period,
              figure: theirs,
              way,
              edition: "own",
              rate: by.rate || null,
              share: by.share || null,
            },
          ]
        : [];
    });
    const own: FigureRef = [statement, figure.line, figure.column];
    try {
      const change = await taken(
        api.POST("/api/packs/{pack}/taken", {
          params: { path: { pack: pack.code } },
          body: { revision: pack.revision, figure: own, sources },
        }),
      );
      act(change);
      onClose();
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      setProblem(error.problem);
    }
  };
  return (
    <form
      className="space-y-2 rounded-md border border-teal bg-paper p-3"
      onSubmit={(event) => {
        event.preventDefault();
        void take();
      }}
    >
      <fieldset>
        <legend className="text-[12px] font-semibold text-soft">From</legend>
        <ul className="max-h-52 space-y-1 overflow-y-auto">
          {others.map((each) => (
            <From
              key={each.id}
              pack={each}
              chosen={chosen.get(each.id)}
              onChange={(to) => set(each.id, to)}
            />
          ))}
        </ul>
      </fieldset>
      {first ? <Theirs pack={first.id} chosen={theirs} onChange={setTheirs} /> : null}
      <label className="flex items-center gap-2">
        <input
          type="checkbox"
          className="accent-teal"
          checked={printed}
          onChange={() => setPrinted(!printed)}
        />
        As it prints there, not the exact amount
      </label>
      <div className="flex flex-wrap gap-1.5">
        <Button main type="submit" className="px-2! py-0.5!" disabled={!first}>
          {chosen.size > 1 ? `Take the sum of ${chosen.size}` : "Take it"}
        </Button>
        <Button className="px-2! py-0.5!" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}

interface FromProps {
  pack: PackName;
  chosen: Chosen | undefined;
  onChange: (to: Chosen | null) => void;
}

function From({ pack, chosen, onChange }: FromProps) {
  return (
    <li>
      <label className="flex items-baseline gap-2">
        <input
          type="checkbox"
          className="accent-teal"
          checked={chosen !== undefined}
          onChange={() => onChange(chosen ? null : NONE)}
        />
        <span>
          <bdi>{pack.entity}</bdi>, <bdi>{pack.period}</bdi>
        </span>
      </label>
      {chosen ? (
        <div className="mt-0.5 ml-6 grid grid-cols-2 gap-2">
          <Field
            label="Rate"
            value={chosen.rate}
            placeholder="1"
            onChange={(rate) => onChange({ ...chosen, rate })}
          />
          <Field
            label="Share"
            value={chosen.share}
            placeholder="1"
            onChange={(share) => onChange({ ...chosen, share })}
          />
        </div>
      ) : null}
    </li>
  );
}

interface TheirsProps {
  pack: string;
  chosen: FigureRef;
  onChange: (figure: FigureRef) => void;
}

/** Which figure it is there: the one called alike, or another of the first pack chosen. */
function Theirs({ pack, chosen, onChange }: TheirsProps) {
  const [owner, line, column] = chosen;
  const { data: there } = useQuery(packQuery(pack));
  const known = there?.statements.some(({ id }) => id === owner) ?? false;
  const { data: proof } = useQuery({ ...proofQuery({ pack, statement: owner }), enabled: known });
  return (
    <div className="space-y-1">
      <Pick
        label="Their statement"
        value={owner}
        options={there?.statements.map(({ id, name }) => [id, name]) ?? []}
        onChange={(to) => onChange([to, line, column])}
      />
      <Pick
        label="Their line"
        value={line}
        options={proof?.lines.filter(({ figured }) => figured).map(({ id, label }) => [id, label]) ?? []}
        onChange={(to) => onChange([owner, to, column])}
      />
      <Pick
        label="Their column"
        value={column}
        options={proof?.columns.map(({ id, heading }) => [id, heading]) ?? []}
        onChange={(to) => onChange([owner, line, to])}
      />
    </div>
  );
}

interface PickProps {
  label: string;
  value: string;
  options: [string, string][];
  onChange: (value: string) => void;
}

function Pick({ label, value, options, onChange }: PickProps) {
  const there = options.some(([id]) => id === value);
  return (
    <label className="block text-[12px] font-semibold text-soft">
      {label}
      <select
        className={SELECT}
        value={there ? value : ""}
        onChange={(event) => onChange(event.target.value)}
      >
        {there ? null : <option value="">choose</option>}
        {options.map(([id, name]) => (
          <option key={id} value={id}>
            {name}
          </option>
        ))}
      </select>
    </label>
  );
}
