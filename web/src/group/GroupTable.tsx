import type { GroupLine } from "../api/client";
import { groupLineId } from "./groupLine";

interface Props {
  lines: readonly GroupLine[];
  hand: string | null;
  onHand: (id: string) => void;
  onOpen: (id: string) => void;
}

const HEADS = ["Pack", "First total", "Sums", "Ties", "Places", "Points", "Prepared", "Reviewed", "Issue"];

/** The packs of the group as rows: what each prints first, and what is open in it. */
export function GroupTable({ lines, hand, onHand, onOpen }: Props) {
  // Where all are of one period it is said once.
  const [first] = lines;
  const period = first && lines.every((line) => line.period === first.period) ? first.period : "";
  return (
    <div
      role="region"
      aria-label="Packs"
      tabIndex={0}
      className="overflow-x-auto border border-hairline bg-paper px-4 py-4"
    >
      {period ? <p className="mb-2 font-serif text-[15px] text-soft">{period}</p> : null}
      <table className="w-full border-collapse text-[13.5px]/6 whitespace-nowrap">
        <thead>
          <tr className="border-b border-ink text-left text-[12px] text-soft">
            {HEADS.map((head, place) => (
              <th
                key={head}
                scope="col"
                className={`py-1 pr-3 font-semibold ${place === 1 ? "text-end" : ""}`}
              >
                {head}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {lines.map((line) => (
            <Row
              key={line.id}
              line={line}
              period={period ? "" : line.period}
              inHand={line.id === hand}
              onHand={onHand}
              onOpen={onOpen}
            />
          ))}
        </tbody>
      </table>
    </div>
  );
}

interface RowProps {
  line: GroupLine;
  period: string;
  inHand: boolean;
  onHand: (id: string) => void;
  onOpen: (id: string) => void;
}

function Row({ line, period, inHand, onHand, onOpen }: RowProps) {
  const { standing } = line;
  return (
    <tr
      className={`border-b border-hairline ${inHand ? "bg-teal-faint shadow-[inset_3px_0_0_var(--color-teal)]" : ""}`}
    >
      <th scope="row" className="py-1 pr-3 pl-1.5 text-left font-normal">
        <button
          id={groupLineId(line.id)}
          type="button"
          aria-current={inHand}
          className="text-left font-serif text-[15px] hover:text-teal"
          onFocus={() => onHand(line.id)}
          onClick={() => onHand(line.id)}
          onDoubleClick={() => onOpen(line.id)}
        >
          <bdi>{line.entity}</bdi>{" "}
          {period ? <span className="font-sans text-[12px] text-soft">{period}</span> : null}
        </button>
      </th>
      {standing ? (
        <>
          <td className="py-1 pr-3 text-end whitespace-nowrap tabular-nums" title={standing.headline_name}>
            <bdi>{standing.headline}</bdi> <span className="text-[12px] text-soft">{standing.unit}</span>
          </td>
          <Stands open={standing.gaps + standing.breaks} some="gap" many="gaps" none="foots" />
          {standing.ties + standing.takes === 0 ? (
            <td className="py-1 pr-3 text-soft">–</td>
          ) : (
            <Stands
              open={standing.apart + line.not_as_there}
              some="apart"
              many="apart"
              none={`${standing.ties + standing.takes} agree`}
            />
          )}
          <Stands open={standing.places} some="apart" many="apart" none="agree" />
          <Stands open={standing.points} some="open" many="open" none="–" />
          <td className="py-1 pr-3">{standing.prepared || "–"}</td>
          <td className="py-1 pr-3">{standing.reviewed || "–"}</td>
        </>
      ) : (
        <td colSpan={7} className={`py-1 pr-3 ${line.problem ? "text-rust" : "text-soft"}`}>
          {line.problem || "being looked at…"}
        </td>
      )}
      <td className="py-1 whitespace-nowrap">{line.issue || "–"}</td>
    </tr>
  );
}

/** How much of one kind is open. */
function Stands({ open, some, many, none }: { open: number; some: string; many: string; none: string }) {
  if (open === 0) return <td className={`py-1 pr-3 ${none === "–" ? "text-soft" : "text-moss"}`}>{none}</td>;
  return (
    <td className="py-1 pr-3 font-semibold whitespace-nowrap text-rust">
      {open} {open === 1 ? some : many}
    </td>
  );
}
