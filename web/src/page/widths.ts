import type { CheckView, FigureCell, LineView, ProofView } from "../api/client";
import type { Lens } from "../pack/address";

const FONT = 14.5; // pixels, of figures and labels; exact amounts and headings are set smaller
const SMALL = 13;
const STEP = 14; // pixels a line is indented by
const BESIDE = 24; // pixels around a figure
const MOST_LABEL = 400; // a longer label is cut, and said whole when it is pointed at
const MARK = 11; // pixels, of the flag of a gap

/**
 * How wide the label and every column of a windowed page are, in pixels, for all that its rows
 * have been sent: so that columns out of view need not be drawn to know where the others stand.
 */
export function widthsOf(
  proof: ProofView,
  lens: Lens,
  hang: number,
  was: ReadonlyMap<string, LineView> | null,
): { label: number; columns: number[] } {
  const columns = proof.columns.map((column) => length(column.heading) * SMALL);
  const [size, said] = lens === "exact" ? ([SMALL, "exact"] as const) : ([FONT, "text"] as const);
  let label = 0;
  for (const line of proof.lines) {
    label = Math.max(label, length(line.label) * FONT + line.indent * STEP);
    const before = was?.get(line.id)?.figures;
    for (const [place, figure] of line.figures.entries()) {
      let text = (length(figure[said]) + length(figure.mark)) * size;
      const other = wasPrinted(before?.[place], figure, lens);
      if (other !== null) text += length(other || "blank") * SMALL + BESIDE;
      columns[place] = Math.max(columns[place] ?? 0, text);
    }
  }
  const flags = lens === "drift" ? flagsOf(proof.checks) : new Map<string, number>();
  const beside = BESIDE + hang * FONT;
  return {
    label: Math.min(label, MOST_LABEL) + 2 * BESIDE,
    columns: columns.map((text, n) =>
      Math.ceil(text + beside + (flags.get(proof.columns[n]?.id ?? "") ?? 0)),
    ),
  };
}

/** What a figure printed before a trial, where that is something else. */
export function wasPrinted(was: FigureCell | undefined, figure: FigureCell, lens: Lens): string | null {
  const other = was && lens !== "exact" && was.column === figure.column && was.text !== figure.text;
  return other ? was.text : null;
}

/** Room for the flags of gaps and breaks, by column. */
function flagsOf(checks: CheckView[]): Map<string, number> {
  const found = new Map<string, number>();
  for (const { status, column, mark } of checks) {
    if (status !== "gap" && status !== "break") continue;
    const said = status === "break" ? "source break" : `→ ${mark}`;
    found.set(column, Math.max(found.get(column) ?? 0, length(said) * MARK + BESIDE));
  }
  return found;
}

/** The length of a text in ems, as the serif of the page is set: digits all alike, and none too short. */
function length(text: string): number {
  let ems = 0;
  for (const letter of text) {
    ems += NARROW.has(letter) ? 0.32 : (letter.codePointAt(0) ?? 0) > 0x2e80 ? 1.05 : 0.61;
  }
  return ems;
}

const NARROW = new Set(" .,'’()ijlt\u00a0\u202f");
