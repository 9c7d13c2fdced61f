import { Check } from "lucide-react";
import { memo, useEffect, useRef } from "react";

import type { CheckView, ProofView } from "../api/client";

interface Props {
  proof: ProofView;
  active: string | null;
  onVisit: (check: CheckView) => void;
}

/** One bead for each relation: a tick that foots, a square with the gap that does not. */
export function Rail({ proof, active, onVisit }: Props) {
  const across = proof.checks.filter((check) => check.way === "across");
  const foots = across.filter((check) => check.status === "foots").length;
  const ties = proof.checks.filter((check) => check.way === "tie");
  const tied = ties.filter((check) => check.status === "foots").length;
  const groups = [
    ...proof.columns.map((column) => ({
      id: column.id,
      label: column.label,
      checks: proof.checks.filter((check) => check.way === "down" && check.column === column.id),
      note: "",
    })),
    {
      id: "across",
      label: "Across",
      checks: across.filter((check) => check.status !== "foots"),
      note: foots > 0 ? `${foots} foot` : "",
    },
    {
      id: "ties",
      label: "Ties",
      checks: ties.filter((check) => check.status !== "foots"),
      note: tied > 0 ? `${tied} agree` : "",
    },
  ].filter((group) => group.checks.length > 0 || group.note);
  return (
    <footer className="col-span-2 flex items-center gap-3 border-t border-hairline bg-panel px-4 print:hidden">
      <h2 className="font-semibold">Footing</h2>
      <div
        className="flex min-w-0 flex-1 items-center gap-2.5 overflow-x-auto py-1"
        role="group"
        aria-label="Relations"
      >
        {groups.map((group) => (
          <div
            key={group.id}
            className="flex shrink-0 items-center gap-1"
            role="group"
            aria-label={group.label}
          >
            <span className="mr-1 text-soft">{group.label}</span>
            {group.checks.map((check) => (
              <Bead key={check.id} check={check} active={check.id === active} onVisit={onVisit} />
            ))}
            {group.note ? <span className="ml-1 text-moss">{group.note}</span> : null}
          </div>
        ))}
      </div>
    </footer>
  );
}

interface BeadProps {
  check: CheckView;
  active: boolean;
  onVisit: (check: CheckView) => void;
}

const LOOKS = {
  foots: "rounded-full border-moss text-moss bg-paper",
  gap: "rounded-[5px] border-rust text-rust bg-rust-wash",
  break: "rounded-[5px] border-rust text-paper bg-rust",
  incomplete: "rounded-full border-dashed border-soft text-soft bg-paper",
  mixed: "rounded-full border-dashed border-soft text-soft bg-paper",
};

const Bead = memo(function Bead({ check, active, onVisit }: BeadProps) {
  const bead = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (active) bead.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [active]);
  const ring = active ? "outline-2 outline-offset-1 outline-teal" : "";
  const inside = { foots: <Check size={13} />, gap: check.mark, break: "!", incomplete: "?", mixed: "≠" };
  return (
    <button
      ref={bead}
      type="button"
      aria-current={active}
      title={check.says}
      className={`relative flex size-6 items-center justify-center border text-[11px] font-semibold ${LOOKS[check.status]} ${ring}`}
      onClick={() => onVisit(check)}
    >
      <span aria-hidden={check.status !== "gap"}>{inside[check.status]}</span>
      <span className="sr-only">{check.says}</span>
    </button>
  );
}, sameBead);

/** A bead is drawn again only when it says something else. */
function sameBead(a: BeadProps, b: BeadProps): boolean {
  const same =
    a.check.id === b.check.id && a.check.status === b.check.status && a.check.says === b.check.says;
  return same && a.active === b.active && a.onVisit === b.onVisit;
}
