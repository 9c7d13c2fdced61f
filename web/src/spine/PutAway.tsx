import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";

import { api, taken } from "../api/client";
import { Button } from "../ui/Button";

const STANDINGS = [
  ["put_away", "Put away"],
  ["taken_out", "Removed"],
] as const;

/** Packs that are put away or taken out: each can be brought back, and one taken out deleted for good. */
export function PutAway() {
  return STANDINGS.map(([standing, title]) => <PackList key={standing} standing={standing} title={title} />);
}

interface Props {
  standing: (typeof STANDINGS)[number][0];
  title: string;
}

function PackList({ standing, title }: Props) {
  const client = useQueryClient();
  const { data } = useQuery({
    queryKey: ["packs", standing],
    queryFn: () => taken(api.GET("/api/packs", { params: { query: { standing } } })),
  });
  const change = useMutation({
    mutationFn: async ({ pack, back }: { pack: string; back: boolean }) => {
      const params = { path: { pack } };
      if (back) {
        await taken(api.PUT("/api/packs/{pack}/standing", { params, body: { standing: "in_use" } }));
      } else await taken(api.DELETE("/api/packs/{pack}", { params }));
    },
    onSuccess: () => client.invalidateQueries({ queryKey: ["packs"] }),
  });
  return (
    <section aria-label={title} className="pb-3">
      <h3 className="pb-1 text-[12px] font-semibold text-soft">{title}</h3>
      {data?.length === 0 ? <p className="text-soft">None.</p> : null}
      <ul className="space-y-1">
        {data?.map((pack) => (
          <li key={pack.id} className="flex items-center gap-2">
            <span className="min-w-0 flex-1 truncate">
              {pack.entity}, {pack.period}
            </span>
            <Button className="px-2! py-0.5!" onClick={() => change.mutate({ pack: pack.id, back: true })}>
              Restore
            </Button>
            {standing === "taken_out" ? (
              <Button className="px-2! py-0.5!" onClick={() => change.mutate({ pack: pack.id, back: false })}>
                Delete for good
              </Button>
            ) : null}
          </li>
        ))}
      </ul>
    </section>
  );
}
