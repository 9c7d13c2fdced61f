import { useState } from "react";

import type { Acceptance, IntakeView, PackView, Problem } from "../api/client";
import { api, Refusal, taken, takeSource } from "../api/client";
import { Button } from "../ui/Button";
import { Notice } from "../ui/Notice";
import { Accept } from "./Accept";
import { Draft } from "./Draft";
import { Source } from "./Source";

interface Props {
  onBack: (() => void) | null;
  onKept: (pack: PackView) => void;
}

/** Figures taken in: what was read, how, and what needs a decision. Nothing is kept until accepted. */
export function Figures({ onBack, onKept }: Props) {
  const [intake, setIntake] = useState<IntakeView | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);

  async function attempt<T>(work: () => Promise<T>, then: (result: T) => void): Promise<void> {
    setBusy(true);
    try {
      then(await work());
      setProblem(null);
    } catch (error) {
      if (!(error instanceof Refusal)) throw error;
      setProblem(error.problem);
    } finally {
      setBusy(false);
    }
  }

  const takeFiles = (files: File[]) =>
    void attempt(async () => {
      let into = intake;
      for (const file of files) {
        into = await takeSource(file, into?.id ?? null);
        setIntake(into);
      }
    }, noop);
  const takeText = (text: string) =>
    void attempt(
      () => taken(api.POST("/api/intakes/pasted", { body: { text, into: intake?.id ?? null } })),
      setIntake,
    );
  const choose = (table: number, column: number, convention: "point" | "comma" | "arabic" | null) => {
    if (!intake) return;
    const params = { path: { intake: intake.id } };
    const body = { table, column, convention };
    void attempt(() => taken(api.PUT("/api/intakes/{intake}/convention", { params, body })), setIntake);
  };
  const decide = (table: number, line: number, take: boolean | null) => {
    if (!intake) return;
    const params = { path: { intake: intake.id } };
    const body = { table, line, take };
    void attempt(() => taken(api.PUT("/api/intakes/{intake}/sum", { params, body })), setIntake);
  };
  const accept = (body: Acceptance) => {
    if (!intake) return;
    const params = { path: { intake: intake.id } };
    void attempt(() => taken(api.POST("/api/intakes/{intake}/accept", { params, body })), onKept);
  };

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
          <Source onFiles={takeFiles} onText={takeText} more={intake !== null} />
          {intake?.drafts.map((draft, table) => (
            <Draft
              key={`${table} ${draft.source} ${draft.sheet}`}
              draft={draft}
              conventions={intake.conventions}
              onConvention={(column, convention) => choose(table, column, convention)}
              onSum={(line, take) => decide(table, line, take)}
            />
          ))}
        </main>
        <aside aria-label="Accept" className="overflow-auto border-l border-hairline bg-panel-light p-4">
          {intake ? (
            <Accept key={intake.id + String(intake.drafts.length)} drafts={intake.drafts} onAccept={accept} />
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

function noop(): void {
  // each file was shown as it came
}
