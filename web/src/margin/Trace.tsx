import type { FigureView } from "../api/client";

/** How one exact amount came to its printed text, step by step. */
export function Trace({ figure }: { figure: FigureView }) {
  const last = figure.steps.length - 1;
  return (
    <dl className="mt-2 grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
      {figure.steps.map((step, place) => {
        const rules = [...new Set(step.origins.map((origin) => origin.rule))].join(", ");
        const reason = rules ? `${step.reason} (${rules})` : step.reason;
        return (
          <div key={step.name} className="contents" title={reason}>
            <dt className="whitespace-nowrap text-soft">{step.name}</dt>
            <dd
              className={`text-right tabular-nums ${place === last ? "font-serif text-[16px] font-semibold" : ""}`}
            >
              <bdi>{step.value}</bdi>
              {step.name === "Nudge" || step.name === "Held" ? (
                <span className="block text-[12px]/4 text-soft">{step.reason}</span>
              ) : (
                <span className="sr-only">, {reason}</span>
              )}
            </dd>
          </div>
        );
      })}
    </dl>
  );
}
