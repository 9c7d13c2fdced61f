import { useMemo, useState } from "react";

import type { PackView } from "../api/client";
import { WorkScreen } from "../frame/WorkScreen";
import { Notice } from "../words/Notice";
import { WorkProgress } from "../words/WorkProgress";
import { Comparison } from "./Comparison";
import { TableSentence } from "./TableSentence";
import { Destination } from "./Destination";
import type { Whose } from "./Destination";
import { Questions } from "./Questions";
import { Source } from "./Source";
import { Sources } from "./Sources";
import type { Selected } from "./OpenTable";
import { OpenTable } from "./OpenTable";
import { TakenInFooter } from "./TakenInFooter";
import { useFiguresActions } from "./useFiguresActions";
import { useIntake } from "./useIntake";

interface Props {
  pack: PackView | null;
  intake: string | null;
  onIntake: (id: string) => void;
  onBack: (() => void) | null;
  onKept: (pack: PackView) => void;
}

/** Figures taken in: what each table was read as, what there is to ask, and where they go. */
export function Figures({ pack, intake: id, onIntake, onBack, onKept }: Props) {
  const taken = useIntake(id, onIntake, onKept);
  const { intake, comparison, decide } = taken;
  const [at, setAt] = useState(0);
  const [asking, setQuestion] = useState(0);
  const [selected, setSelected] = useState<Selected>(null);
  const [more, setMore] = useState(false);
  const [whose, setWhose] = useState<Whose>({
    next: pack !== null,
    entity: pack?.entity ?? "",
    period: "",
    currency: "",
    untied: [],
    into: {},
    restate: false,
    style: null,
  });
  const table = Math.min(at, Math.max((intake?.drafts.length ?? 1) - 1, 0));
  const draft = intake?.drafts[table];
  // One that was answered is gone, and the next stands in its place.
  const question = Math.min(asking, Math.max((draft?.questions.length ?? 1) - 1, 0));
  const asked = useMemo(
    () => new Set(draft?.questions.flatMap((each) => each.places) ?? []),
    [draft?.questions],
  );
  const visit = (place: number) => {
    setAt(place);
    setQuestion(0);
    setSelected(null);
  };
  const here = (patch: Record<string, unknown>) => decide(table, patch);
  const actions = useFiguresActions({
    taken,
    table,
    question,
    whose,
    pack,
    onQuestion: (of, place) => {
      setAt(of);
      setQuestion(place);
    },
    onMore: () => setMore(true),
    onBack,
  });
  return (
    <WorkScreen
      title="Figures"
      says={taken.busy ? "Reading…" : "Nothing is saved until you keep it"}
      actions={actions}
      margin={
        intake && draft ? (
          <>
            <Questions draft={draft} at={question} onVisit={setQuestion} decide={here} />
            <TableSentence intake={intake} table={table} selected={selected} decide={here} />
            <Destination
              intake={intake}
              pack={pack}
              whose={whose}
              comparison={comparison}
              onWhose={(changed) => setWhose({ ...whose, ...changed })}
              decide={decide}
            />
          </>
        ) : (
          <p className="text-soft">
            Beside every cell as it stands you will see what was read. What a careful colleague would ask is
            asked here, one key to answer; formulas become sums, and where there are only values, sums are
            found from the figures themselves.
          </p>
        )
      }
      footer={
        intake ? <TakenInFooter intake={intake} at={table} onVisit={visit} /> : "Nothing is taken in yet"
      }
    >
      {taken.problem ? <Notice problem={taken.problem} onClose={() => taken.setProblem(null)} /> : null}
      {taken.progress ? <WorkProgress doing="Reading" progress={taken.progress} onStop={taken.stop} /> : null}
      {!intake || more ? <Source taken={taken} more={intake !== null} onDone={() => setMore(false)} /> : null}
      {intake ? <Sources taken={taken} intake={intake} /> : null}
      {comparison ? <Comparison comparison={comparison} decide={decide} /> : null}
      {draft ? (
        <OpenTable draft={draft} selected={selected} asked={asked} onTake={setSelected} decide={here} />
      ) : null}
    </WorkScreen>
  );
}
