import { useQueryClient } from "@tanstack/react-query";

import type { DocumentName } from "../api/client";
import { api } from "../api/client";
import { usePack } from "../pack/OpenPack";

interface Props {
  list: readonly DocumentName[];
  chosen: number | null;
  onChoose: (id: number) => void;
}

/** The documents of the pack, each with how many of its numbers are open. */
export function DocumentList({ list, chosen, onChoose }: Props) {
  const { pack } = usePack();
  const client = useQueryClient();
  if (list.length === 0) return null;
  const word = list.find(({ id, name }) => id === chosen && /\.do[ct][xm]$/i.test(name));
  const takeOut = async (document: number) => {
    await api.DELETE("/api/packs/{pack}/documents/{document}", {
      params: { path: { pack: pack.id, document } },
    });
    await client.invalidateQueries({ queryKey: ["documents", pack.id] });
  };
  return (
    <section aria-label="Documents of the pack">
      <h2 className="mb-1 text-[12px] font-semibold text-soft">Documents</h2>
      <ul>
        {list.map((each) => (
          <li key={each.id} className="flex items-baseline gap-2">
            <button
              type="button"
              aria-current={each.id === chosen ? "true" : undefined}
              className="min-w-0 flex-1 truncate py-0.5 text-left hover:text-teal aria-[current]:font-semibold"
              onClick={() => onChoose(each.id)}
            >
              <bdi>{each.name}</bdi>
            </button>
            <span className={each.wrong > 0 ? "text-rust" : each.doubt > 0 ? "text-ochre" : "text-moss"}>
              {each.problem || stands(each)}
            </span>
            <button
              type="button"
              aria-label={`take out ${each.name}`}
              className="text-[12px] text-soft underline hover:text-ink"
              onClick={() => void takeOut(each.id)}
            >
              take out
            </button>
          </li>
        ))}
      </ul>
      <p className="mt-1 flex flex-wrap gap-x-4 text-[12.5px]">
        <a className="text-teal underline" href={`/api/packs/${pack.id}/documents/record`} download>
          Every number, as a table
        </a>
        {word ? (
          <a
            className="text-teal underline"
            href={`/api/packs/${pack.id}/documents/${word.id}/corrected?follow=true`}
            download
          >
            A copy whose numbers follow
          </a>
        ) : null}
      </p>
    </section>
  );
}

function stands({ wrong, doubt }: DocumentName): string {
  if (wrong > 0) return `${wrong} open`;
  return doubt > 0 ? `${doubt} in doubt` : "agrees";
}
