import type { JSONContent } from "@tiptap/core";

import type { PassageView } from "../api/client";

/** The paragraphs of a passage as the editor has them. */
export function readPassage(paragraphs: PassageView["editing"]): JSONContent {
  const content = paragraphs.map((runs) => ({
    type: "paragraph",
    content: runs.flatMap(({ text, mark }): JSONContent[] => {
      if (mark !== null) return [{ type: "figure", attrs: { source: mark, text } }];
      return text ? [{ type: "text", text: text.replaceAll("\n", " ") }] : [];
    }),
  }));
  return { type: "doc", content: content.length > 0 ? content : [{ type: "paragraph" }] };
}

/** The passage in the form that is kept: marks in braces, braces of the text doubled. */
export function writePassage(doc: JSONContent): string {
  return (doc.content ?? [])
    .map((paragraph) => (paragraph.content ?? []).map(written).join("").trim())
    .filter(Boolean)
    .join("\n\n");
}

function written(node: JSONContent): string {
  if (node.type === "figure") return String(node.attrs?.source ?? "");
  const text = node.text ?? "";
  // Marks that were pasted as text are marks again.
  return text
    .split(/(\{[^{}\n]+:[^{}\n]+\})/)
    .map((part, place) => (place % 2 ? part : part.replaceAll("{", "{{").replaceAll("}", "}}")))
    .join("");
}
