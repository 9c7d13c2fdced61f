import type { DragEvent } from "react";
import { useState } from "react";

import { Button } from "../ui/Button";

interface Props {
  onFiles: (files: File[]) => void;
  onText: (text: string) => void;
  more: boolean;
}

/** Where files are dropped or chosen, and tables pasted. */
export function Source({ onFiles, onText, more }: Props) {
  const [text, setText] = useState("");
  const [over, setOver] = useState(false);
  function onDrop(event: DragEvent) {
    event.preventDefault();
    setOver(false);
    const files = [...event.dataTransfer.files];
    if (files.length > 0) onFiles(files);
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
            accept=".xlsx,.xlsm,.csv,.tsv,.psv,.txt,.html,.htm,.json"
            className="mt-2 block w-full font-normal file:mr-3 file:cursor-pointer file:rounded-md file:border-0 file:bg-teal file:px-3 file:py-1.5 file:font-semibold file:text-white"
            onChange={(event) => {
              const files = [...(event.target.files ?? [])];
              if (files.length > 0) onFiles(files);
              event.target.value = "";
            }}
          />
        </label>
        <p className="mt-2 text-soft">
          Drop workbooks, CSV or TSV, web pages or JSON records here, or choose them.
        </p>
      </div>
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
    </section>
  );
}
