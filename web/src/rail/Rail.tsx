import { Check } from "lucide-react";
import { memo, useDeferredValue, useEffect, useMemo, useRef } from "react";

import type { CheckView, ProofView } from "../api/client";
import { useSelection, useSelectionControls } from "../pack/SelectedFigure";
import { PointsBead } from "../review/PointsBead";

/** One bead for each relation: a tick that foots, a square with the gap that does not. */
export function Rail() {
  const { proof, active } = useSelection();
  const { visit } = useSelectionControls();
  // The page is repainted first, and the beads right after it.
  const proved = useDeferredValue(proof);
  const groups = useMemo(() => groupsOf(proved), [proved]);
  return (
    <footer className="col-span-2 flex items-center gap-3 border-t border-hairline bg-panel px-4 print:hidden">
      <h2 className="font-semibold">Footing</h2>
      <div
        className="flex min-w-0 flex-1 items-center gap-2.5 overflow-x-auto"
        role="region"
        aria-label="Relations"
        // Where nothing in it takes the focus, it can still be scrolled by keys.
        tabIndex={proof.gaps > 0 ? undefined : 0}
      >
        {groups.map((group) => (
          <div
            key={group.id}
            // What is left out of view is cut at its edge, so there is room for the ring of the bead in hand.
            className="flex shrink-0 items-center gap-1 py-1 pr-1 [content-visibility:auto]"
            style={{ containIntrinsicWidth: `auto ${group.checks.length * 28 + 80}px` }}
            role="group"
            aria-label={group.label}
          >
            <span className="mr-1 text-soft">{group.label}</span>
            {group.checks.map((check) => (
              <Bead key={check.id} check={check} active={check.id === active?.id} onVisit={visit} />
            ))}
            {group.note ? <span className="ml-1 text-moss">{group.note}</span> : null}
          </div>
        ))}
      </div>
      <PointsBead />
    </footer>
  );
}

const MOST_BEADS = 40; // in one group; beyond, only those that do not foot are shown

interface Group {
  id: string;
  label: string;
  checks: CheckView[];
  note: string;
}

/** Sums down by column, then cross-sums and ties; where many foot, they are counted, not shown. */
function groupsOf(proof: ProofView): Group[] {
  const group = (id: string, label: string, checks: CheckView[], always: boolean, word: string): Group => {
    const feet = proof.feet[id] ?? 0;
    const all = always && !proof.large && checks.length <= MOST_BEADS;
    const shown = all ? checks : checks.filter((check) => check.status !== "foots");
    return {
      id,
      label,
      checks: shown.slice(0, MOST_BEADS),
      note: [
        shown.length > MOST_BEADS ? `and ${shown.length - MOST_BEADS} more` : "",
        !all && feet > 0 ? `${feet} ${word}` : "",
      ]
        .filter(Boolean)
        .join(", "),
    };
  };
  const way = (name: CheckView["way"]) => proof.checks.filter((check) => check.way === name);
  const down = Map.groupBy(way("down"), (check) => check.column);
  return [
    ...proof.columns.map((each) => group(each.id, each.label, down.get(each.id) ?? [], true, "foot")),
    group("across", "Across", way("across"), false, "foot"),
    group("tie", "Ties", way("tie"), false, "agree"),
  ].filter((each) => each.checks.length > 0 || each.note);
}

interface BeadProps {
  check: CheckView;
  active: boolean;
  onVisit: (check: CheckView) => void;
}

const LOOKS = {
  foots: "rounded-full border-moss text-moss bg-paper",
  gap: "rounded-[5px] border-rust text-rust bg-rust-wash",
  noted: "rounded-[5px] border-dashed border-rust text-rust bg-paper",
  break: "rounded-[5px] border-rust text-paper bg-rust",
  incomplete: "rounded-full border-dashed border-soft text-soft bg-paper",
  mixed: "rounded-full border-dashed border-soft text-soft bg-paper",
};

const Bead = memo(function Bead({ check, active, onVisit }: BeadProps) {
  const bead = useRef<HTMLButtonElement>(null);
  useEffect(() => {
    if (active) bead.current?.scrollIntoView({ block: "nearest", inline: "nearest" });
  }, [active]);
  const said = check.says || `${check.name} ${check.mark}`;
  const ring = active ? "outline-2 outline-offset-1 outline-teal" : "";
  const inside = {
    foots: <Check size={13} />,
    gap: check.mark,
    noted: "~",
    break: "!",
    incomplete: "?",
    mixed: "≠",
  };
  return (
    <button
      ref={bead}
      type="button"
      aria-current={active}
      title={said}
      aria-label={check.status === "gap" ? `${check.mark} ${said}` : said}
      className={`flex size-6 items-center justify-center border text-[11px] font-semibold ${LOOKS[check.status]} ${ring}`}
      onClick={() => onVisit(check)}
    >
      <span aria-hidden={check.status !== "gap"}>{inside[check.status]}</span>
    </button>
  );
}, sameBead);

/** A bead is drawn again only when it says something else. */
function sameBead(a: BeadProps, b: BeadProps): boolean {
  const same =
    a.check.id === b.check.id && a.check.status === b.check.status && a.check.says === b.check.says;
  return same && a.active === b.active && a.onVisit === b.onVisit;
}
