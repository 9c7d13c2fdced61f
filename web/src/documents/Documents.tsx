import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { useMemo, useRef, useState } from "react";

import { api, Refusal, takeDocument, taken as answered, type DocumentView } from "../api/client";
import { documentQuery, documentsQuery } from "../api/queries";
import { WorkScreen } from "../frame/WorkScreen";
import { usePack, usePackControls } from "../pack/OpenPack";
import type { Action } from "../pack/actions";
import { Notice } from "../words/Notice";
import { DocumentBeads } from "./DocumentBeads";
import { DocumentList } from "./DocumentList";
import { DocumentPage } from "./DocumentPage";
import { DocumentSamples } from "./DocumentSamples";
import { NumberMargin } from "./NumberMargin";
import { SinceBefore } from "./SinceBefore";
import { showNumber } from "./showNumber";

/** Documents made elsewhere: every number marked by how it stands to the pack, and what can be said of it. */
export function Documents() {
  const { pack, says, problem } = usePack();
  const { setProblem, say, keep } = usePackControls();
  const client = useQueryClient();
  const [wanted, setWanted] = useState<number | null>(null);
  const [number, setNumber] = useState<number | null>(null);
  const list = useQuery(documentsQuery(pack.id, pack.revision)).data;
  const chosen = list?.find(({ id }) => id === wanted) ?? list?.find((each) => !each.problem);
  const query = useQuery({
    ...documentQuery(pack.id, pack.revision, chosen?.id ?? 0),
    enabled: chosen !== undefined,
  });
  const view = query.data?.id === chosen?.id ? query.data : undefined;
  const hand = number ?? view?.open[0] ?? null;
  const file = useRef<HTMLInputElement>(null);
  const taken = async (read: DocumentView) => {
    setProblem(null);
    setWanted(read.id);
    setNumber(null);
    say(`${read.name} is read: ${read.numbers.length} numbers`);
    await client.invalidateQueries({ queryKey: ["documents", pack.id] });
    await client.invalidateQueries({ queryKey: ["document", pack.id] });
  };
  const refused = (error: unknown) => {
    if (error instanceof Refusal) setProblem(error.problem);
    else throw error;
  };
  const taking = useMutation({
    mutationFn: (given: File) => takeDocument(pack.id, given),
    onSuccess: taken,
    onError: refused,
  });
  const trying = useMutation({
    mutationFn: (name: string) =>
      answered(
        api.POST("/api/packs/{pack}/documents/samples/{name}", { params: { path: { pack: pack.id, name } } }),
      ),
    onSuccess: taken,
    onError: refused,
  });
  const visit = (to: number) => {
    setNumber(to);
    showNumber(to);
  };
  const step = (by: 1 | -1) => {
    const open = view?.open ?? [];
    if (open.length === 0) {
      say("Every number of this document agrees, or is none of ours");
      return;
    }
    const at = open.indexOf(hand ?? -1);
    const next = open[at < 0 ? 0 : (at + by + open.length) % open.length];
    if (next !== undefined) visit(next);
  };
  const copy = chosen ? `/api/packs/${pack.id}/documents/${chosen.id}/corrected` : null;
  const selected = hand === null ? undefined : view?.numbers[hand];
  const other = () => {
    if (selected) keep(selected.none_of_ours);
  };
  const actions: Action[] = [
    { name: "Take in a document", key: "a", button: "Take in a document", run: () => file.current?.click() },
    {
      name: "Next that is open",
      key: "n",
      button: "Next open",
      dim: !view || view.open.length === 0,
      run: () => step(1),
    },
    { name: "Previous that is open", key: "p", run: () => step(-1) },
    { name: "The number in hand is none of ours", key: "o", off: !selected, run: other },
    {
      name: "Write a corrected copy",
      key: "k",
      button: "Write a corrected copy",
      main: true,
      off: !copy || !view,
      run: () => {
        if (copy) window.location.assign(copy);
      },
    },
    { name: "Undo", key: "u", run: () => keep("undo") },
    { name: "Redo", key: "U", run: () => keep("redo") },
  ];
  const told = useMemo(
    () => (view ? `${view.name}, ${view.numbers.length} numbers, read ${view.at}` : ""),
    [view],
  );
  return (
    <WorkScreen
      title="Documents"
      says={says || told}
      actions={actions}
      margin={
        <>
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          <DocumentList list={list ?? []} chosen={chosen?.id ?? null} onChoose={setWanted} />
          {selected ? (
            <NumberMargin key={`${chosen?.id}:${hand}`} number={selected} document={view?.name ?? ""} />
          ) : null}
        </>
      }
      footer={<DocumentBeads view={view} hand={hand} onVisit={visit} />}
    >
      <input
        ref={file}
        type="file"
        aria-label="A document to proofread"
        className="sr-only"
        tabIndex={-1}
        accept=".docx,.docm,.pptx,.pptm,.xlsx,.xlsm,.pdf,.html,.htm,.md,.txt"
        onChange={(event) => {
          const given = event.target.files?.[0];
          event.target.value = "";
          if (given) taking.mutate(given);
        }}
      />
      {taking.isPending ? <p role="status">Reading the document…</p> : null}
      {chosen && !view ? <p role="status">Opening…</p> : null}
      {view && view.since.length > 0 ? <SinceBefore since={view.since} /> : null}
      {view ? <DocumentPage view={view} hand={hand} onNumber={setNumber} /> : null}
      {list?.length === 0 && !taking.isPending ? (
        <div className="max-w-prose space-y-2 pt-2">
          <p>
            Nothing has been taken in yet. “Take in a document” reads a report, a deck or a circular (DOCX,
            PPTX, XLSX, PDF, HTML, Markdown or text) and says of every number whether it is a figure of this
            pack and whether it agrees.
          </p>
          <DocumentSamples onTake={(name) => trying.mutate(name)} />
        </div>
      ) : null}
    </WorkScreen>
  );
}
