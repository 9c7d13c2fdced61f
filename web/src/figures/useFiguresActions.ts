import { useMemo } from "react";

import type { PackView } from "../api/client";
import type { Action } from "../pack/actions";
import type { Whose } from "./Destination";
import type { TakenIn } from "./useIntake";

interface Asked {
  taken: TakenIn;
  table: number;
  question: number;
  whose: Whose;
  pack: PackView | null;
  onQuestion: (table: number, place: number) => void;
  onMore: () => void;
  onBack: (() => void) | null;
}

const MOST_ANSWERS = 6;

/** What can be done on the screen of figures. */
export function useFiguresActions(asked: Asked): Action[] {
  const { taken, table, question, whose, pack, onQuestion, onMore, onBack } = asked;
  return useMemo(() => {
    const { intake } = taken;
    const drafts = intake?.drafts ?? [];
    const all = drafts.flatMap((draft, of) => draft.questions.map((_, place) => [of, place] as const));
    const now = drafts[table]?.questions[question];
    const visit = (by: number) => {
      const here = all.findIndex(([of, place]) => of === table && place === question);
      const next = all[(here + by + all.length) % Math.max(all.length, 1)];
      if (!next) return;
      onQuestion(next[0], next[1]);
      requestAnimationFrame(() =>
        document.getElementById(`question:${next[1]}`)?.scrollIntoView({ block: "nearest" }),
      );
    };
    const next = pack !== null && whose.next;
    const forward = {
      pack: pack?.code ?? "",
      period: whose.period.trim(),
      into: whose.into,
      restate: whose.restate,
    };
    const keep = () => {
      const lacks = !whose.period.trim()
        ? "Their period"
        : !next && !whose.entity.trim()
          ? "Whose they are"
          : "";
      if (lacks) {
        [...document.querySelectorAll<HTMLLabelElement>("aside label")]
          .find((label) => label.textContent.startsWith(lacks))
          ?.querySelector("input")
          ?.focus();
        return;
      }
      if (next) taken.roll(forward);
      else
        taken.accept({
          entity: whose.entity.trim(),
          period: whose.period.trim(),
          currency: whose.currency.trim().toUpperCase() || null,
          statements: drafts.flatMap(({ name, left_out }, number) =>
            left_out ? [] : [{ table: number, name, look: true }],
          ),
          without_ties: whose.untied,
          house_style: whose.style,
        });
    };
    const answers = (now?.answers ?? []).slice(0, MOST_ANSWERS).map((answer, place): Action => ({
      name: `Answer: ${answer.label}`,
      key: String(place + 1),
      run: () => taken.decide(table, answer.decide),
    }));
    return [
      { name: "Take in more figures", key: "a", button: "Take in more", off: !intake, run: onMore },
      {
        name: "Read changed sources again",
        key: "r",
        off: !intake || intake.sources.length === 0,
        run: () => taken.takeAgain(),
      },
      {
        name: "Next question",
        key: "n",
        button: "Next question",
        off: all.length === 0,
        run: () => visit(1),
      },
      { name: "Previous question", key: "p", off: all.length === 0, run: () => visit(-1) },
      ...answers,
      {
        name: "Compare with the last period",
        key: "c",
        ...(next ? { button: "Compare" } : {}),
        off: !intake || !next,
        run: () => taken.compare({ ...forward, period: forward.period || "Next period" }),
      },
      ...(intake
        ? [
            {
              name: "Save the decisions as a file, for next month",
              run: () => save(JSON.stringify(intake.decisions, null, 1)),
            },
          ]
        : []),
      ...(onBack ? [{ name: "Back to the page", run: onBack }] : []),
      {
        name: next ? "Keep as the next period" : "Keep as a pack",
        key: "k",
        button: next ? "Keep as the next period" : "Keep as a pack",
        main: true,
        off: !intake,
        run: keep,
      },
    ];
  }, [taken, table, question, whose, pack, onQuestion, onMore, onBack]);
}

/** Hands a file to the browser. */
function save(text: string): void {
  const link = document.createElement("a");
  link.href = URL.createObjectURL(new Blob([text], { type: "application/json" }));
  link.download = "decisions.json";
  link.click();
  URL.revokeObjectURL(link.href);
}
