import { useQuery } from "@tanstack/react-query";
import { useMemo, useState } from "react";

import type { ChangeView, FoundView } from "../api/client";
import { rulebookQuery, useHistory } from "../api/queries";
import { WorkScreen } from "../frame/WorkScreen";
import { usePackControls, usePack } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { Notice } from "../words/Notice";
import { WordMenu } from "../words/WordMenu";
import { ChangeMargin } from "./ChangeMargin";
import { Changes } from "./Changes";
import { ChooseFigure } from "./ChooseFigure";
import { YourName } from "./YourName";

/** What the list is of: everything, one figure, or one rule. */
type About = { figure: string; name: string } | { rule: string; name: string } | null;

const NO_CHANGES: ChangeView[] = [];

/** Every change to the pack: who, when and what. One can look at the pack after each, and go back to it. */
export function History() {
  const { pack, says, problem, statement, address } = usePack();
  const { act, setProblem } = usePackControls();
  const [about, setAbout] = useState<About>(null);
  const [person, setPerson] = useState<string | null>(null);
  const [finding, setFinding] = useState(false);
  const [chosen, setChosen] = useState<number | null>(null);
  const figure = about && "figure" in about ? about.figure : null;
  const rule = about && "rule" in about ? about.rule : null;
  const query = useHistory(pack.id, figure, rule);
  const every = query.data ?? NO_CHANGES;
  const changes = person === null ? every : every.filter((each) => each.author === person);
  const change = changes.find((each) => each.number === chosen) ?? changes[0];
  const actions = useMemo<Action[]>(
    () => [
      { name: "Changes to one figure", key: "a", button: "One figure", run: () => setFinding(true) },
      { name: "Undo", key: "u", run: () => act("undo") },
      { name: "Redo", key: "U", run: () => act("redo") },
    ],
    [act],
  );
  const { place } = address;
  const selected = place ? `${statement}:${place.line}:${place.column}` : null;
  return (
    <WorkScreen
      title="History"
      says={says || "Newest first. Times are UTC."}
      actions={actions}
      margin={
        <>
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          {change ? <ChangeMargin change={change} changes={every} whole={about === null} /> : null}
          <YourName />
        </>
      }
      footer={
        <a
          className="underline"
          href={`/api/packs/${encodeURIComponent(pack.id)}/history.csv${queryOf(figure, rule)}`}
          download
        >
          These changes as a file (CSV)
        </a>
      }
    >
      <p className="sentence leading-8">
        Changes to{" "}
        <AboutWord
          about={about}
          selected={selected}
          onAbout={(to) => {
            setAbout(to);
            setPerson(null);
          }}
          onFind={() => setFinding(true)}
        />{" "}
        by <PersonWord changes={every} person={person} onPerson={setPerson} />.
      </p>
      {query.error ? <p role="alert">{query.error.message}</p> : null}
      {query.data && changes.length === 0 ? (
        <p>{about || person !== null ? "No change fits this." : "Nothing has been changed yet."}</p>
      ) : null}
      <Changes changes={changes} chosen={change?.number ?? null} onChoose={setChosen} />
      {finding ? (
        <ChooseFigure
          onClose={() => setFinding(false)}
          onFigure={(found) => {
            setFinding(false);
            setAbout({ figure: addressOf(found), name: found.name });
          }}
        />
      ) : null}
    </WorkScreen>
  );
}

const addressOf = ({ statement, line, column }: FoundView) => `${statement}:${line}:${column}`;

function queryOf(figure: string | null, rule: string | null): string {
  if (figure) return `?figure=${encodeURIComponent(figure)}`;
  return rule ? `?rule=${encodeURIComponent(rule)}` : "";
}

interface AboutProps {
  about: About;
  /** The figure that was in hand on the page. */
  selected: string | null;
  onAbout: (about: About) => void;
  onFind: () => void;
}

/** What the changes are to: everything, the selected figure, a rule, or a figure that is looked for. */
function AboutWord({ about, selected, onAbout, onFind }: AboutProps) {
  const { pack } = usePack();
  const rules = useQuery(rulebookQuery(pack.id, pack.revision, null)).data?.rules ?? [];
  const ways: { label: string; about: About }[] = [
    { label: "everything", about: null },
    ...(selected
      ? [{ label: "the selected figure", about: { figure: selected, name: "the selected figure" } }]
      : []),
    ...rules.map(({ id, name }) => ({
      label: `the rule ${name}`,
      about: { rule: id, name: `the rule ${name}` },
    })),
  ];
  const label = about?.name ?? "everything";
  return (
    <WordMenu
      word={{ name: "what the changes are to", label, clause: "about" }}
      choices={ways}
      chosen={ways.findIndex((way) => way.label === label)}
      onChoose={(place) => onAbout(ways[place]?.about ?? null)}
      further={[{ label: "a figure…", apart: true, onSelect: onFind }]}
    />
  );
}

interface PersonProps {
  changes: ChangeView[];
  person: string | null;
  onPerson: (person: string | null) => void;
}

function PersonWord({ changes, person, onPerson }: PersonProps) {
  const names = [...new Set(changes.map((each) => each.author))].sort();
  const ways = [
    { label: "anyone", person: null },
    ...names.map((each) => ({ label: each || "nobody named", person: each })),
  ];
  const chosen = ways.findIndex((way) => way.person === person);
  return (
    <WordMenu
      word={{ name: "who made the changes", label: ways[chosen]?.label ?? "anyone", clause: "person" }}
      choices={ways}
      chosen={chosen}
      onChoose={(place) => onPerson(ways[place]?.person ?? null)}
    />
  );
}
