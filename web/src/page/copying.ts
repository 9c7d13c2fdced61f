import type { ClipboardEvent } from "react";

import type { FigureCell, ProofView } from "../api/client";
import type { Place, Where } from "../api/queries";

/**
 * Copies the figure in hand, or the chosen lines as a table, as they print. Each figure is a link to itself on
 * this desk: in a document it says which figure it is, whatever the words around it.
 */
export function copyFigures(
  event: ClipboardEvent,
  {
    where,
    proof,
    place,
    chosen,
  }: { where: Where; proof: ProofView; place: Place; chosen: ReadonlySet<string> },
): string {
  if (window.getSelection()?.toString()) return "";
  const rows = proof.lines.filter((line) => chosen.has(line.id));
  const cell = proof.lines
    .find((line) => line.id === place.line)
    ?.figures.find((f) => f.column === place.column);
  if (rows.length < 2 && !cell) return "";
  const link = (line: string, figure: FigureCell) =>
    linked(where, proof, { line, column: figure.column }, figure);
  const heads = ["", ...proof.columns.map((column) => column.heading)];
  const table = [heads, ...rows.map((line) => [line.label, ...line.figures.map((figure) => figure.text)])];
  const [plain, rich] =
    rows.length > 1
      ? [
          table.map((row) => row.join("\t")).join("\n"),
          `<table><tr>${heads.map((head) => `<th>${escaped(head)}</th>`).join("")}</tr>${rows
            .map(
              (line) =>
                `<tr><td>${escaped(line.label)}</td>${line.figures
                  .map((figure) => `<td align="right">${link(line.id, figure)}</td>`)
                  .join("")}</tr>`,
            )
            .join("")}</table>`,
        ]
      : [cell?.text ?? "", cell ? link(place.line, cell) : ""];
  event.preventDefault();
  event.clipboardData.setData("text/plain", plain);
  event.clipboardData.setData("text/html", rich);
  return rows.length > 1
    ? `${rows.length} lines copied, with their names.`
    : `${plain} copied, with its name.`;
}

/** A figure as a link to itself, which looks like the text around it. */
function linked(where: Where, proof: ProofView, place: Place, figure: FigureCell): string {
  const path = [where.pack, proof.statement].map(encodeURIComponent).join("/");
  const spot = [place.line, place.column].map(encodeURIComponent).join("/");
  const query = new URLSearchParams({ of: proof.entity });
  const address = `${window.location.origin}/packs/${path}?${query.toString()}#${spot}`;
  return `<a href="${escaped(address)}" style="color:inherit;text-decoration:none">${escaped(figure.text)}</a>`;
}

function escaped(text: string): string {
  return text.replace(/&/g, "&amp;").replace(/</g, "&lt;").replace(/>/g, "&gt;").replace(/"/g, "&quot;");
}
