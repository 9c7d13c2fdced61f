import { useQuery } from "@tanstack/react-query";
import { useEffect, useMemo, useRef, useState } from "react";

import type { Acceptance, ComparisonView, Forward, IntakeView, PackView, Problem } from "../api/client";
import { api, Refusal, taken, takeSource } from "../api/client";
import type { Progress } from "../api/client";
import type { Given } from "./pickedFile";
import type { Again } from "./takingAgain";
import { takenAgain } from "./takingAgain";

export type Decide = Record<string, unknown>;

/** Figures taken in and not yet kept: what was read, and what can be done with it. */
export interface TakenIn {
  intake: IntakeView | null;
  comparison: ComparisonView | null;
  problem: Problem | null;
  busy: boolean;
  progress: Progress | null;
  takeFiles: (files: Given[]) => void;
  /** Takes every source again as it is now, or one of them: from this file, or with this query. */
  takeAgain: (only?: Again) => void;
  /** Sources that cannot be read again by themselves, and have to be chosen once more. */
  lost: string[];
  takeText: (text: string) => void;
  takeSample: (name: string) => void;
  takeDatabase: (name: string, query: string) => void;
  decide: (table: number, patch: Decide) => void;
  decideAs: (file: File) => void;
  compare: (forward: Forward) => void;
  roll: (forward: Forward) => void;
  accept: (acceptance: Acceptance) => void;
  stop: () => void;
  setProblem: (problem: Problem | null) => void;
}

export function useIntake(
  id: string | null,
  onIntake: (id: string) => void,
  onKept: (pack: PackView) => void,
): TakenIn {
  const [intake, setIntake] = useState<IntakeView | null>(null);
  const [comparison, setComparison] = useState<ComparisonView | null>(null);
  const [problem, setProblem] = useState<Problem | null>(null);
  const [busy, setBusy] = useState(false);
  const [progress, setProgress] = useState<Progress | null>(null);
  const stop = useRef<AbortController | null>(null);
  const [lost, setLost] = useState<string[]>([]);
  // The files as they were given, to be read again. A page that is loaded again has them no more.
  const given = useRef(new Map<string, Given>());
  // What was compared last, to be compared again when something is decided.
  const compared = useRef<Forward | null>(null);
  // What was taken in before the screen was left, or the page loaded again.
  const kept = useQuery({
    queryKey: ["intake", id],
    queryFn: () => taken(api.GET("/api/intakes/{intake}", { params: { path: { intake: id ?? "" } } })),
    enabled: id !== null && intake === null,
    retry: false,
    gcTime: 0,
  }).data;
  const now = intake ?? kept ?? null;
  const shown = useRef(now);
  useEffect(() => {
    shown.current = now;
  });
  const does = useMemo(() => {
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
      compared.current = null;
      onIntake(read.id);
    };
    const compare = (body: Forward) => {
      compared.current = body;
      void attempt(
        () => taken(api.POST("/api/intakes/{intake}/compare", { params: params(), body })),
        setComparison,
      );
    };
    const decided = (read: IntakeView) => {
      setIntake(read);
      if (compared.current) compare(compared.current);
    };
    const into = () => shown.current?.id ?? null;
    const params = () => ({ path: { intake: into() ?? "" } });
    return {
      takeFiles: (files: Given[]) =>
        void attempt(async () => {
          const controller = new AbortController();
          stop.current = controller;
          let at = into();
          for (const each of files) {
            const { name } = each;
            setProgress({ done: 0, total: 1, says: name });
            const how = { name, ...(at === null ? {} : { into: at }) };
            const read = await takeSource(await each.read(), how, controller.signal, setProgress);
            given.current.set(name, each);
            at = read.id;
            show(read);
          }
        }, noop),
      takeAgain: (only?: Again) =>
        void attempt(async () => {
          const controller = new AbortController();
          stop.current = controller;
          if (!shown.current) return;
          if (only?.from) given.current.set(only.name, only.from);
          const found = await takenAgain(shown.current, given.current, only, controller.signal, setProgress);
          setLost(found.lost);
          decided(found.read);
        }, noop),
      takeText: (text: string) =>
        void attempt(() => taken(api.POST("/api/intakes/pasted", { body: { text, into: into() } })), show),
      takeDatabase: (name: string, query: string) =>
        void attempt(
          () =>
            taken(
              api.POST("/api/intakes/databases/{name}", {
                params: { path: { name } },
                body: { query, into: into(), again: false },
              }),
            ),
          show,
        ),
      takeSample: (name: string) =>
        void attempt(
          () =>
            taken(
              api.POST("/api/intakes/samples/{name}", {
                params: { path: { name }, query: { into: into() } },
              }),
            ),
          show,
        ),
      decide: (table: number, patch: Decide) =>
        void attempt(
          () =>
            taken(
              api.PATCH("/api/intakes/{intake}/tables/{table}", {
                params: { path: { intake: into() ?? "", table } },
                body: patch,
              }),
            ),
          decided,
        ),
      decideAs: (file: File) =>
        void attempt(async () => {
          // As it is: the server says where a file that is no JSON goes wrong.
          const text = await file.text();
          return taken(
            api.PUT("/api/intakes/{intake}/decisions", {
              params: params(),
              body: {} as never,
              bodySerializer: () => text,
              headers: { "Content-Type": "application/json" },
            }),
          );
        }, show),
      compare,
      roll: (body: Forward) =>
        void attempt(() => taken(api.POST("/api/intakes/{intake}/roll", { params: params(), body })), onKept),
      accept: (body: Acceptance) =>
        void attempt(
          () => taken(api.POST("/api/intakes/{intake}/accept", { params: params(), body })),
          onKept,
        ),
      stop: () => stop.current?.abort(),
      setProblem,
    };
  }, [onIntake, onKept]);
  return { intake: now, lost, comparison, problem, busy, progress, ...does };
}

function noop(): void {
  // each file was shown as it came
}
