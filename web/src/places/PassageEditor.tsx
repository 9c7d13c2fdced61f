import { EditorContent, useEditor } from "@tiptap/react";
import Document from "@tiptap/extension-document";
import Paragraph from "@tiptap/extension-paragraph";
import Text from "@tiptap/extension-text";
import { UndoRedo } from "@tiptap/extensions";
import { useEffect, useState } from "react";

import type { PassageView } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { FigureMark } from "./FigureMark";
import { FigureSearch } from "./FigureSearch";
import { writePassage } from "../pack/formCommands";
import { readPassage, writePassage as passageText } from "./passageText";

interface Props {
  dashboard: string;
  passage: PassageView;
  onClose: () => void;
}

/** Writing a passage: `@` places a figure, which then stands as a mark and follows. */
export default function PassageEditor({ dashboard, passage, onClose }: Props) {
  const { keep } = usePackControls();
  const [typed, setTyped] = useState<string | null>(null);
  const editor = useEditor({
    extensions: [Document, Paragraph, Text, UndoRedo, FigureMark],
    content: readPassage(passage.editing),
    injectCSS: false,
    editorProps: {
      attributes: {
        role: "textbox",
        "aria-multiline": "true",
        "aria-label": `Text of ${passage.label}`,
        class: "passage-editor",
      },
    },
    onUpdate: ({ editor: now }) =>
      setTyped(
        atTyped(
          now.state.selection.$from.parent.textBetween(
            0,
            now.state.selection.$from.parentOffset,
            undefined,
            "\uFFFC",
          ),
        ),
      ),
  });
  // Not by its own autofocus: an editor that took long to be drawn is given up, and another made in its
  // place, which autofocus does not reach.
  useEffect(() => {
    if (!editor.isDestroyed) editor.commands.focus("end");
  }, [editor]);
  function save() {
    keep(writePassage(dashboard, passage.id, passageText(editor.getJSON())), onClose);
  }
  return (
    // Escape leaves the text as it was; the keys of the screen do not reach into the text.
    // eslint-disable-next-line jsx-a11y/no-static-element-interactions
    <div
      // Before the editor, which has a use of its own for Enter with Control.
      onKeyDownCapture={(event) => {
        if (event.key !== "Enter" || !(event.ctrlKey || event.metaKey)) return;
        event.preventDefault();
        event.stopPropagation();
        save();
      }}
      onKeyDown={(event) => {
        event.stopPropagation();
        if (event.key === "Escape" && !event.defaultPrevented) onClose();
      }}
    >
      <EditorContent editor={editor} className="pt-1 font-serif text-[15.5px] leading-7" />
      {typed === null ? null : (
        <FigureSearch
          typed={typed}
          dashboard={dashboard}
          passage={passage.id}
          onPick={(source, text) => {
            const { from } = editor.state.selection;
            const mark = { type: "figure", attrs: { source, text } };
            editor
              .chain()
              .focus()
              .deleteRange({ from: from - typed.length - 1, to: from })
              .insertContent([mark, { type: "text", text: " " }])
              .run();
            setTyped(null);
          }}
          onClose={() => setTyped(null)}
        />
      )}
      <p className="flex items-center gap-2 pt-2">
        <Button main shortcut="ctrl+enter" onClick={save}>
          Keep the text
        </Button>
        <Button shortcut="esc" onClick={onClose}>
          Cancel
        </Button>
        <span className="text-soft">@ places a figure</span>
      </p>
    </div>
  );
}

/** What was typed behind an @ right before the caret; null where there is none. */
function atTyped(before: string): string | null {
  const found = /(?:^|[^\w@])@([^@\n]{0,60})$/.exec(before);
  return found?.[1] ?? null;
}
