import { useRef, useState } from "react";

import type {
  Acceptance,
  ComparisonView,
  Forward,
  IntakeView,
  PackName,
  PackView,
  Problem,
  Progress,
} from "../api/client";
import { api, Refusal, taken, takeSource } from "../api/client";
import { Button } from "../ui/Button";
import { Notice } from "../words/Notice";
import { Accept } from "./Accept";
import { Comparison } from "./Comparison";
import type { Unit } from "./Draft";
import { Draft } from "./Draft";
import { Forwarding } from "./Forwarding";
import { Source } from "./Source";

interface Props {
  packs: PackName[];
  open: string | null;
  onBack: (() => void) | null;
  onKept: (pack: PackView) => void;
}

/** Figures taken in: what was read, how, and what needs a decision. Nothing is kept until accepted. */
export function Figures({ packs, open, onBack, onKept }: Props) {
  const [intake, setIntake] = useState<IntakeView | null>(null);
  const [comparison, setComparison] = useState<ComparisonView | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [progress, setProgress] = useState<Progress | null>(null);
  const stop = useRef<AbortController | null>(null);

  async function attempt<T>(work: () => Promise<T>, then: (result: T) => void): Promise<void> {
    setBusy(true);
    try {
      then(await work());
      setProblem(null);
    } catch (error) {
      if (error instanceof Refusal) setProblem(error.problem);
      else if (!(error instanceof DOMException)) throw error;
    } finally {
      setBusy(false);
      setProgress(null);
      stop.current = null;
    }
  }
  const show = (read: IntakeView) => {
    setIntake(read);
    setComparison(null);
  };

  const takeFiles = (files: File[]) =>
    void attempt(async () => {
      const controller = new AbortController();
      stop.current = controller;
      let into = intake;
      for (const file of files) {
        setProgress({ done: 0, whole: 1, says: file.name });
        into = await takeSource(file, into?.id ?? null, controller.signal, setProgress);
        show(into);
      }
    }, noop);
  const takeText = (text: string) =>
    void attempt(
      () => taken(api.POST("/api/intakes/pasted", { body: { text, into: intake?.id ?? null } })),
      show,
    );
  const params = { path: { intake: intake?.id ?? "" } };
  const choose = (table: number, column: number, convention: "point" | "comma" | "arabic" | null) => {
    const body = { table, column, convention };
    void attempt(() => taken(api.PUT("/api/intakes/{intake}/convention", { params, body })), show);
  };
  const decide = (table: number, line: number, take: boolean | null) => {
    const body = { table, line, take };
    void attempt(() => taken(api.PUT("/api/intakes/{intake}/sum", { params, body })), show);
  };
  const inUnit = (table: number, unit: Unit | null) => {
    const body = { table, unit };
    void attempt(() => taken(api.PUT("/api/intakes/{intake}/unit", { params, body })), show);
  };
  const accept = (body: Acceptance) =>
    void attempt(() => taken(api.POST("/api/intakes/{intake}/accept", { params, body })), onKept);
  const compare = (body: Forward) =>
    void attempt(() => taken(api.POST("/api/intakes/{intake}/compare", { params, body })), setComparison);
  const roll = (body: Forward) =>
    void attempt(() => taken(api.POST("/api/intakes/{intake}/roll", { params, body })), onKept);

  return (
    <div className="grid h-full grid-rows-[46px_minmax(0,1fr)]">
      <header className="flex items-center gap-3 border-b border-hairline bg-panel px-4">
        <p className="text-[17px] font-semibold">
          Humble <span className="border-b-3 border-double border-ink">Sum</span>
        </p>
        <h1 className="ml-4 text-[15px] font-semibold">Figures</h1>
        <p role="status" className="flex-1 text-soft">
          {busy ? "Reading…" : "What was read, and how. Nothing is kept until you accept it."}
        </p>
        {onBack ? <Button onClick={onBack}>Back to the page</Button> : null}
      </header>
      <div className="grid min-h-0 grid-cols-[minmax(0,1fr)_288px] xl:grid-cols-[minmax(0,1fr)_336px]">
        <main className="space-y-4 overflow-auto p-4" aria-label="Sources">
          {problem ? <Notice problem={problem} onClose={() => setProblem(null)} /> : null}
          {progress ? <Reading progress={progress} onStop={() => stop.current?.abort()} /> : null}
          <Source onFiles={takeFiles} onText={takeText} more={intake !== null} />
          {comparison ? <Comparison comparison={comparison} /> : null}
          {intake?.drafts.map((draft, table) => (
            <Draft
              key={`${table} ${draft.source} ${draft.sheet}`}
              draft={draft}
              conventions={intake.conventions}
              onConvention={(column, convention) => choose(table, column, convention)}
              onSum={(line, take) => decide(table, line, take)}
              onUnit={(unit) => inUnit(table, unit)}
            />
          ))}
        </main>
        <aside
          aria-label="Accept"
          className="space-y-6 overflow-auto border-l border-hairline bg-panel-light p-4"
        >
          {intake ? (
            <>
              <Accept
                key={intake.id + String(intake.drafts.length)}
                drafts={intake.drafts}
                ties={intake.ties}
                onAccept={accept}
              />
              {packs.length > 0 ? (
                <Forwarding
                  key={`${intake.id} ${intake.drafts.length} forward`}
                  drafts={intake.drafts}
                  packs={packs}
                  open={open}
                  comparison={comparison}
                  onCompare={compare}
                  onRoll={roll}
                />
              ) : null}
            </>
          ) : (
            <p>
              Take in a workbook, a CSV, or a table you have copied. Beside each column you will see how its
              numbers were read; formulas become sums, and where there are only values, sums are found from
              the figures themselves.
            </p>
          )}
        </aside>
      </div>
    </div>
  );
}

/** How far the reading has come, and a way to stop it. */
function Reading({ progress, onStop }: { progress: Progress; onStop: () => void }) {
  const share = progress.whole > 0 ? Math.min(1, progress.done / progress.whole) : 0;
  return (
    <div className="flex items-center gap-3 rounded-md border border-hairline bg-paper p-3">
      <label className="flex min-w-0 flex-1 items-center gap-3">
        <span className="min-w-0 truncate">Reading {progress.says}</span>
        <progress className="h-2 flex-1 accent-teal" max={1} value={share} />
      </label>
      <Button className="px-2! py-0.5!" onClick={onStop}>
        Stop
      </Button>
    </div>
  );
}

function noop(): void {
  // each file was shown as it came
}
