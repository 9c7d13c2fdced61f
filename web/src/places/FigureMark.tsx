import { Node } from "@tiptap/core";

/** A figure in the text of a passage: `source` is the mark as it is kept, `text` what it prints. */
export const FigureMark = Node.create({
  name: "figure",
  group: "inline",
  inline: true,
  atom: true,
  addAttributes() {
    return { source: { default: "" }, text: { default: "" } };
  },
  renderHTML({ node }) {
    const said = node.attrs as { source: string; text: string };
    return ["bdi", { class: "figure-mark", title: said.source, contenteditable: "false" }, said.text];
  },
  renderText({ node }) {
    return (node.attrs as { source: string }).source;
  },
});
