import { useState } from "react";

import type { FigureView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";

type List = FigureView["structure"]["members"][number];

/** Who should be there: chosen members, so that those absent show as placeholders. */
export function Members({ lists }: { lists: List[] }) {
  const { act } = usePackControls();
  const [open, setOpen] = useState<string | null>(null);
  const save = (list: List, members: string[]) => {
    setOpen(null);
    act({ ...list.change, members });
  };
  return (
    <div className="mt-2 space-y-1">
      {lists.map((list) =>
        open === list.id ? (
          <Editor
            key={list.id}
            list={list}
            onSave={(members) => save(list, members)}
            onClose={() => setOpen(null)}
          />
        ) : (
          <p key={list.id} className="text-soft">
            {list.members.length > 0 ? (
              <>
                {list.label}: {list.members.length} should be there,{" "}
                {list.absent.length === 0 ? "none absent" : `absent: ${list.absent.join(", ")}`}.{" "}
              </>
            ) : null}
            <button type="button" className="text-teal underline" onClick={() => setOpen(list.id)}>
              {list.members.length > 0 ? "Change" : "List the lines that should be there"}
            </button>
          </p>
        ),
      )}
    </div>
  );
}

interface EditorProps {
  list: List;
  onSave: (members: string[]) => void;
  onClose: () => void;
}

function Editor({ list, onSave, onClose }: EditorProps) {
  const [text, setText] = useState(list.members.join("\n"));
  const members = text
    .split("\n")
    .map((label) => label.trim())
    .filter(Boolean);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        onSave(members);
      }}
    >
      <label className="block text-soft">
        One per line, in order. A member without figures gets a placeholder, never a zero.
        <textarea
          value={text}
          rows={Math.min(10, Math.max(4, members.length + 1))}
          className="mt-1 block w-full border border-hairline bg-paper p-1 text-ink"
          onChange={(event) => setText(event.target.value)}
        />
      </label>
      <div className="mt-1 flex gap-1.5">
        <Button type="submit" className="px-2! py-0.5!">
          {members.length > 0 ? "Use this list" : "No list"}
        </Button>
        <Button className="px-2! py-0.5!" onClick={onClose}>
          Cancel
        </Button>
      </div>
    </form>
  );
}
