import { useQuery } from "@tanstack/react-query";

import { api, taken as answered } from "../api/client";
import { usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";

/** The demo's own documents, to try. */
export function DocumentSamples({ onTake }: { onTake: (name: string) => void }) {
  const { pack } = usePack();
  const { data } = useQuery({
    queryKey: ["document samples", pack.id],
    queryFn: () =>
      answered(api.GET("/api/packs/{pack}/documents/samples", { params: { path: { pack: pack.id } } })),
  });
  if (!data || data.length === 0) return null;
  return (
    <p className="flex flex-wrap items-baseline gap-2">
      Or try one of the demo’s own:
      {data.map((name) => (
        <Button key={name} onClick={() => onTake(name)}>
          {name}
        </Button>
      ))}
    </p>
  );
}
