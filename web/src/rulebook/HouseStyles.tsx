import { useQuery, useQueryClient } from "@tanstack/react-query";
import { useState } from "react";

import type { HouseStylesView } from "../api/client";
import { api, Refusal, taken } from "../api/client";
import { keys } from "../api/keys";
import { houseStylesQuery } from "../api/queries";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";

const SMALL = "px-2! py-0.5!";
type Following = NonNullable<HouseStylesView["following"]>;
type Version = HouseStylesView["styles"][number];

/** House styles that many packs share: what this pack follows, which there are, and a new version kept. */
export function HouseStyles() {
  const { pack } = usePack();
  const { data } = useQuery(houseStylesQuery(pack.id, pack.revision));
  if (!data) return null;
  const { following, styles, faults } = data;
  return (
    <section aria-labelledby="house-styles" className="space-y-2 border-t border-hairline pt-3">
      <h2 id="house-styles" className="font-semibold">
        Shared house styles
      </h2>
      {following ? <Followed following={following} /> : <p>This pack follows no house style.</p>}
      <ul className="space-y-1">
        {styles.map((style) => (
          <li key={`${style.name} ${style.version}`}>
            <Offered style={style} own={pack.id} />
          </li>
        ))}
      </ul>
      {faults.map((fault) => (
        <p key={fault} role="alert" className="text-brick-dark">
          Not offered: {fault}
        </p>
      ))}
      <Keep data={data} />
    </section>
  );
}

/** The version this pack follows, where the pack differs, and a later version to try. */
function Followed({ following }: { following: Following }) {
  const { tryOut, keep } = usePackControls();
  const { name, version, kept, own, newest, changes, follow, leave } = following;
  return (
    <div className="rounded-md border border-hairline bg-panel-light px-3 py-2">
      <p className="flex flex-wrap items-center gap-2">
        <span className="min-w-0 flex-1">
          Follows <b>{name}</b>, version {version}
          {kept ? "" : ", which is no longer in the folder"}
          {newest === null ? "" : `; version ${newest} is there`}.
        </span>
        {follow && newest !== null ? (
          <Button className={SMALL} onClick={() => tryOut(follow)}>
            Try version {newest}
          </Button>
        ) : null}
        <Button className={SMALL} onClick={() => keep(leave)}>
          Stop following it
        </Button>
      </p>
      {newest === null ? null : <Said summary={`What version ${newest} changes`} lines={changes} />}
      {kept ? <Said summary="Where this pack differs" lines={own} /> : null}
    </div>
  );
}

function Offered({ style, own }: { style: Version; own: string }) {
  const { tryOut } = usePackControls();
  const { name, version, follow, followers, changes } = style;
  const others = followers.filter((each) => each.id !== own);
  return (
    <>
      <p className="flex flex-wrap items-center gap-2">
        <span className="min-w-0 flex-1">
          {name}, version {version}
          {others.length > 0
            ? `, followed by ${others.map(({ entity, period }) => `${entity}, ${period}`).join("; ")}`
            : ""}
        </span>
        {follow ? (
          <Button
            className={SMALL}
            onClick={() => tryOut(follow)}
            aria-label={`Try ${name}, version ${version}`}
          >
            Try
          </Button>
        ) : (
          <span className="text-soft">followed here</span>
        )}
      </p>
      <Said summary={version > 1 ? "Changes since the last version" : "What it says"} lines={changes} />
    </>
  );
}

function Said({ summary, lines }: { summary: string; lines: string[] }) {
  if (lines.length === 0) return <p className="text-soft">{summary}: nothing.</p>;
  return (
    <details>
      <summary className="cursor-pointer text-soft">
        {summary} ({lines.length})
      </summary>
      <ul className="list-disc pl-6">
        {lines.map((line) => (
          <li key={line}>{line}</li>
        ))}
      </ul>
    </details>
  );
}

/** The rules as they stand, kept for other packs under a name and the next version. */
function Keep({ data }: { data: HouseStylesView }) {
  const { pack } = usePack();
  const { say, setProblem } = usePackControls();
  const client = useQueryClient();
  const [name, setName] = useState(data.following?.name ?? "");
  const title = name.trim();
  const before = data.styles.filter((style) => style.name === title).map((style) => style.version);
  const version = Math.max(0, ...before) + 1;
  const save = async () => {
    try {
      const body = { pack: pack.id, name: title, version };
      const found = await taken(api.POST("/api/house-styles", { body }));
      client.setQueryData(keys.houseStyles(pack.id, pack.revision), found);
      say(`Kept ${title}, version ${version}, for other packs to follow`);
      setProblem(null);
    } catch (error) {
      if (error instanceof Refusal) setProblem(error.problem);
      else throw error;
    }
  };
  return (
    <form
      className="flex flex-wrap items-end gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        if (title) void save();
      }}
    >
      <div className="w-72">
        <Field
          label="Keep these rules as a house style"
          value={name}
          placeholder="its name"
          onChange={setName}
        />
      </div>
      <Button type="submit" className={SMALL} disabled={!title}>
        Keep as version {version}
      </Button>
    </form>
  );
}
