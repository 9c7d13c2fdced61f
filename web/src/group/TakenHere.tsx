import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import type { Change, GroupLine, TakenView } from "../api/client";
import { api, Refusal, taken } from "../api/client";
import { takenQuery } from "../api/queries";
import { usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";

const MOST_SHOWN = 12;

/** The figures of a pack that are taken from others, those first that do not follow them now. */
export function TakenHere({ line }: { line: GroupLine }) {
  const { setProblem, say } = usePackControls();
  const client = useQueryClient();
  const { data } = useQuery(takenQuery(line.id, line.revision));
  const make = useMutation({
    mutationFn: (change: Change) =>
      taken(
        api.POST("/api/packs/{pack}/changes", {
          params: { path: { pack: line.id } },
          body: { revision: line.revision, change, page: null },
        }),
      ),
    onSuccess: async (made) => {
      say(made.says);
      await client.invalidateQueries({ queryKey: ["group"] });
      await client.invalidateQueries({ queryKey: ["pack"] });
      await client.invalidateQueries({ queryKey: ["taken"] });
    },
    onError: (error) => {
      if (error instanceof Refusal) setProblem(error.problem);
      else throw error;
    },
  });
  if (!data || data.length === 0) return null;
  const open = data.filter((each) => each.open);
  return (
    <section aria-label="Taken from other packs" className="space-y-2">
      <h3 className="text-[12px] font-semibold text-soft">Taken from other packs</h3>
      <p>
        {data.length === 1 ? "1 figure" : `${data.length} figures`},{" "}
        {open.length === 0 ? (
          <span className="text-moss">all agree</span>
        ) : (
          <span className="font-semibold text-rust">
            {open.length} {open.length === 1 ? "differs" : "differ"} there now
          </span>
        )}
      </p>
      <ul className="space-y-2">
        {open.slice(0, MOST_SHOWN).map((each) => (
          <li key={each.figure.join("/")} className="border-l-3 border-rust pl-2.5">
            <p className="font-semibold">
              <bdi>{each.name}</bdi>
            </p>
            {each.sources
              .filter(({ stands }) => stands !== "follows")
              .map((source) => (
                <p key={source.name} className="text-[13px]/5">
                  {saysOf(source, each)}
                </p>
              ))}
            {each.take ? (
              <Button
                className="mt-1 px-2! py-0.5!"
                onClick={() => {
                  if (each.take) make.mutate(each.take);
                }}
              >
                Take it as it is now
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
      {open.length > MOST_SHOWN ? <p className="text-soft">and {open.length - MOST_SHOWN} more</p> : null}
    </section>
  );
}

function saysOf(source: TakenView["sources"][number], of: TakenView): string {
  if (source.stands === "gone") return `${source.name}: the figure is gone there.`;
  if (source.stands === "moved")
    return `${source.name} gave ${source.was}, and has ${source.now} now; its own page prints ${source.printed_there}.`;
  return `${source.name} prints ${source.printed_there}, and this page ${of.printed_here}.`;
}
