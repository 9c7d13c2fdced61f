import { useQuery } from "@tanstack/react-query";
import type { DragEvent } from "react";
import { useState } from "react";

import { api, taken as answered } from "../api/client";
import { useEndings } from "../api/formats";
import { Button } from "../ui/Button";
import { FromDatabase } from "./FromDatabase";
import type { Given } from "./pickedFile";
import { chosen, dropped, ofFile } from "./pickedFile";
import type { TakenIn } from "./useIntake";

interface Props {
  taken: TakenIn;
  more: boolean;
  onDone: () => void;
}

/** Where files are dropped or chosen, tables pasted, and the demo's own files tried. */
export function Source({ taken, more, onDone }: Props) {
  const [over, setOver] = useState(false);
  const endings = useEndings();
  function take(files: Given[]) {
    if (files.length === 0) return;
    onDone();
    taken.takeFiles(files);
  }
  function onDrop(event: DragEvent) {
    event.preventDefault();
    setOver(false);
    void dropped(event.dataTransfer).then(take);
  }
  return (
    <section aria-label="Take in" className="grid gap-4 sm:grid-cols-2">
      {/* Dropping is a second way to do what the file field does. */}
      <div
        role="presentation"
        className={`rounded-md border border-dashed p-4 ${over ? "border-teal bg-teal-faint" : "border-soft bg-panel-light"}`}
        onDragOver={(event) => {
          event.preventDefault();
          setOver(true);
        }}
        onDragLeave={() => setOver(false)}
        onDrop={onDrop}
      >
        <label className="block font-semibold">
          {more ? "More files" : "Files"}
          <input
            type="file"
            multiple
            accept={endings.join(",")}
            className="mt-2 block w-full font-normal file:mr-3 file:cursor-pointer file:rounded-md file:border-0 file:bg-teal file:px-3 file:py-1.5 file:font-semibold file:text-white"
            onClick={(event) => {
              // Files that the browser has a handle of can be read again when they have changed.
              const choosing = chosen();
              if (!choosing) return;
              event.preventDefault();
              void choosing.then(take);
            }}
            onChange={(event) => {
              take([...(event.target.files ?? [])].map(ofFile));
              event.target.value = "";
            }}
          />
        </label>
        <p className="mt-2 text-soft">
          Drop workbooks, OpenDocument sheets, CSV or TSV, web pages, JSON records, Parquet, Arrow or SQLite
          files here, or choose them.
        </p>
        {more ? (
          <label className="mt-3 block text-[12px] font-semibold text-soft">
            Use a file of decisions
            <input
              type="file"
              accept=".json"
              className="mt-1 block w-full font-normal"
              onChange={(event) => {
                const file = event.target.files?.[0];
                if (file) taken.decideAs(file);
                onDone();
              }}
            />
          </label>
        ) : (
          <Samples onSample={taken.takeSample} />
        )}
      </div>
      <Pasted
        onText={(text) => {
          onDone();
          taken.takeText(text);
        }}
      />
      <FromDatabase
        onQuery={(name, query) => {
          onDone();
          taken.takeDatabase(name, query);
        }}
      />
    </section>
  );
}

/** The demo's own files, for whoever has none at hand. */
function Samples({ onSample }: { onSample: (name: string) => void }) {
  const { data } = useQuery({
    queryKey: ["samples"],
    queryFn: () => answered(api.GET("/api/intakes/samples")),
    staleTime: Infinity,
  });
  if (!data) return null;
  return (
    <p className="mt-3 flex flex-wrap items-center gap-2 text-soft">
      Or try one of the demo’s own:
      {data.map((name) => (
        <Button key={name} className="px-2! py-0.5!" onClick={() => onSample(name)}>
          {name}
        </Button>
      ))}
    </p>
  );
}

function Pasted({ onText }: { onText: (text: string) => void }) {
  const [text, setText] = useState("");
  return (
    <form
      className="rounded-md border border-hairline bg-panel-light p-4"
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onText(text);
        setText("");
      }}
    >
      <label className="block font-semibold">
        A pasted table
        <textarea
          rows={2}
          value={text}
          placeholder="Paste cells here"
          className="mt-2 block w-full border border-hairline bg-paper p-1.5 font-normal"
          onChange={(event) => setText(event.target.value)}
          onPaste={(event) => {
            const html = event.clipboardData.getData("text/html");
            if (html.includes("<table")) {
              event.preventDefault();
              onText(html);
            }
          }}
        />
      </label>
      <Button type="submit" className="mt-2" disabled={!text.trim()}>
        Read it
      </Button>
    </form>
  );
}
