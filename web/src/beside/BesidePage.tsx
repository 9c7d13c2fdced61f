import type { BesideView } from "../api/client";

type Line = BesideView["lines"][number];
type Figure = Line["figures"][number][number];

/** A statement in two editions on one sheet: ochre strokes under what differs in more than scale. */
export function BesidePage({ view }: { view: BesideView }) {
  return (
    <div className="paper beside overflow-x-auto">
      <h2 className="font-serif text-[19px] font-semibold">{view.title}</h2>
      <p className="font-serif text-soft">{view.period}</p>
      <table className="mt-2 w-full border-collapse font-serif text-[15px]">
        <thead>
          <tr className="border-t border-ink">
            <td />
            {view.heads.map((head) => (
              <th
                key={head.edition}
                colSpan={head.columns.length}
                scope="colgroup"
                className="border-b border-hairline pt-2 pb-1 text-center font-sans text-[12.5px] font-semibold"
              >
                {[head.name, head.caption].filter(Boolean).join(", ")}
              </th>
            ))}
          </tr>
          <tr>
            <td />
            {view.heads.flatMap((head) =>
              head.columns.map((column, place) => (
                <th
                  key={`${head.edition}:${place}`}
                  scope="col"
                  className="px-2 pb-1 text-right font-normal whitespace-nowrap text-soft"
                >
                  {column}
                </th>
              )),
            )}
          </tr>
        </thead>
        <tbody>
          {view.lines.map((line) => (
            <tr key={line.id} className={line.kind}>
              <th
                scope="row"
                className="py-0.5 text-left font-normal"
                style={{ paddingInlineStart: line.indent * 16 }}
              >
                {line.label}
              </th>
              {line.figures.flatMap((figures, edition) =>
                figures.map((figure) => (
                  <Cell key={`${edition}:${figure.column}`} figure={figure} name={line.label} />
                )),
              )}
            </tr>
          ))}
        </tbody>
      </table>
    </div>
  );
}

function Cell({ figure, name }: { figure: Figure; name: string }) {
  const lead = figure.hang ? figure.text.slice(0, -figure.hang.length) : figure.text;
  return (
    <td
      className={`px-2 py-0.5 text-right whitespace-nowrap ${figure.differs ? "differs" : ""}`}
      tabIndex={figure.differs ? -1 : undefined}
      title={figure.differs ? `${name} differs in more than scale` : undefined}
    >
      {figure.nudged ? (
        <span className="mr-1 text-[11px] text-ochre">
          <span aria-hidden="true">{figure.nudged === "up" ? "▴" : "▾"}</span>
          <span className="sr-only">nudged {figure.nudged} </span>
        </span>
      ) : null}
      <bdi>
        {lead}
        {figure.hang ? <span className="hang">{figure.hang}</span> : null}
      </bdi>
      {figure.gap ? (
        <span className="ml-1 font-sans text-[11px] font-semibold text-rust">
          <span className="sr-only">gap </span>
          {figure.gap}
        </span>
      ) : null}
    </td>
  );
}
