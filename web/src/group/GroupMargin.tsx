import type { GroupLine } from "../api/client";
import { Button } from "../ui/Button";
import { openIn } from "./groupLine";
import { TakenHere } from "./TakenHere";

interface Props {
  line: GroupLine;
  onOpen: (id: string) => void;
}

/** What is open in one pack, in words. */
export function GroupMargin({ line, onOpen }: Props) {
  const { standing } = line;
  return (
    <section aria-label="The pack in hand" className="space-y-2">
      <h2 className="text-[15px] font-semibold">
        <bdi>{line.entity}</bdi>
      </h2>
      <p className="text-soft">{line.period}</p>
      {line.problem ? <p className="text-rust">{line.problem}</p> : null}
      {standing ? (
        <>
          <dl className="grid grid-cols-[auto_1fr] gap-x-4 gap-y-0.5">
            <Fact name={standing.headline_name} said={`${standing.headline} ${standing.unit}`} />
            <Fact name="House style" said={standing.style || "its own rules"} />
            <Fact name="Issue" said={line.issue || "none yet"} />
          </dl>
          {openIn(line) === 0 ? (
            <p className="text-moss">Nothing is open.</p>
          ) : (
            <ul className="list-disc pl-5">
              <Left count={standing.gaps} one="sum does not foot" many="sums do not foot" />
              <Left count={standing.breaks} one="sum does not add exactly" many="sums do not add exactly" />
              <Left count={standing.apart} one="tie does not agree" many="ties do not agree" />
              <Left count={standing.places} one="placed figure is apart" many="placed figures are apart" />
              <Left
                count={line.not_as_there}
                one="figure taken from another pack differs there now"
                many="figures taken from other packs differ there now"
              />
              <Left count={standing.points} one="point is open" many="points are open" />
            </ul>
          )}
        </>
      ) : null}
      <TakenHere line={line} />
      <Button shortcut="o" onClick={() => onOpen(line.id)}>
        Open it
      </Button>
    </section>
  );
}

function Fact({ name, said }: { name: string; said: string }) {
  return (
    <>
      <dt className="text-soft">{name}</dt>
      <dd className="text-end tabular-nums">
        <bdi>{said}</bdi>
      </dd>
    </>
  );
}

function Left({ count, one, many }: { count: number; one: string; many: string }) {
  if (count === 0) return null;
  return (
    <li>
      {count} {count === 1 ? one : many}
    </li>
  );
}
