import type { ChangeView } from "../api/client";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { STATES } from "./Changes";

interface Props {
  change: ChangeView;
  changes: readonly ChangeView[];
  /** Whether the list has every change, so that those after this one are known. */
  whole: boolean;
}

/** One change: what it did, when and by whom. One can look at the pack after it, or go back to it. */
export function ChangeMargin({ change, changes, whole }: Props) {
  const { busy } = usePack();
  const { look, go, act } = usePackControls();
  const { number, summary, state, at, when, author, steps } = change;
  const later = changes.filter((each) => each.state === "applied" && each.number > number).length;
  const applied = state === "applied";
  return (
    <section aria-labelledby="change" className="space-y-2">
      <h2 id="change" className="text-[14.5px] font-semibold">
        {summary}
      </h2>
      <p className="text-soft">
        <time dateTime={at}>{when}</time>, by {author ? <bdi>{author}</bdi> : "nobody named"}
        {STATES[state] ? `. It was ${STATES[state]}.` : "."}
      </p>
      {steps.map((step) => (
        <p key={`${step.what} ${step.when}`} className="text-soft">
          {step.what === "undone" ? "Undone" : "Put back"} {step.when}, by{" "}
          {step.author ? <bdi>{step.author}</bdi> : "nobody named"}.
        </p>
      ))}
      {applied ? (
        <p className="flex flex-wrap gap-1.5">
          <Button
            className="px-2! py-0.5!"
            onClick={() => {
              look({ number, says: summary });
              go({ screen: "page" });
            }}
          >
            Look at the pack after it
          </Button>
          {whole && later > 0 ? (
            <Button
              className="px-2! py-0.5!"
              disabled={busy}
              onClick={() => {
                for (let step = 0; step < later; step += 1) act("undo");
              }}
            >
              Go back to it
            </Button>
          ) : null}
        </p>
      ) : null}
      {applied && whole && later > 0 ? (
        <p className="text-[12px] text-soft">
          Going back undoes {later === 1 ? "the change" : `the ${later} changes`} after it. Redo brings{" "}
          {later === 1 ? "it" : "them"} again.
        </p>
      ) : null}
    </section>
  );
}
