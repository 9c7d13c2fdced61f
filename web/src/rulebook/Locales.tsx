import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { Change, RuleView } from "../api/client";
import { api, Refusal, taken } from "../api/client";
import { keys } from "../api/keys";
import { usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Sheet } from "../ui/Sheet";

interface Props {
  rule: RuleView;
  onChoose: (change: Change) => void;
  onClose: () => void;
}

/** What the rule in hand would print in many locales, side by side. */
export function Locales({ rule, onChoose, onClose }: Props) {
  const { pack, tried } = usePack();
  const [typed, setTyped] = useState("");
  const [also, setAlso] = useState<string | null>(null);
  const { data, error } = useQuery({
    queryKey: keys.locales(pack.id, pack.revision, rule.id, tried?.id ?? "", also ?? ""),
    queryFn: () =>
      taken(
        api.GET("/api/packs/{pack}/locales", {
          params: { path: { pack: pack.id }, query: { rule: rule.id, also, trial: tried?.id ?? null } },
        }),
      ),
    staleTime: Infinity,
    placeholderData: (last) => last,
  });
  return (
    <Sheet
      open
      wide
      onClose={onClose}
      title="Locales side by side"
      says={`What ${rule.name} would print in each. Choosing one tries it.`}
    >
      <form
        className="mb-3 flex items-end gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          setAlso(typed.trim() || null);
        }}
      >
        <Field label="Another language tag" value={typed} onChange={setTyped} placeholder="gsw-LI" />
        <Button type="submit" className="px-2! py-0.5!">
          Show it
        </Button>
      </form>
      {error instanceof Refusal ? (
        <p role="alert" className="mb-2 text-rust">
          {error.problem.detail}
        </p>
      ) : null}
      <table className="w-full">
        <thead>
          <tr className="text-left text-[12px] text-soft">
            <th scope="col">Locale</th>
            <th scope="col" className="text-right">
              An amount
            </th>
            <th scope="col" className="text-right">
              A percentage
            </th>
            <th scope="col" className="text-right">
              A date
            </th>
          </tr>
        </thead>
        <tbody>
          {data?.map((each) => (
            <tr key={each.tag} className="border-t border-hairline">
              <th scope="row" className="font-normal">
                <button
                  type="button"
                  className="w-full py-0.5 text-left text-teal hover:underline"
                  onClick={() => onChoose(each.change)}
                >
                  {each.says} <span className="text-[12px] text-soft">{each.tag}</span>
                </button>
              </th>
              {[each.amount, each.percent, each.date].map((text, place) => (
                <td key={place} className="pl-4 text-right font-serif whitespace-nowrap">
                  <bdi lang={each.tag}>{text}</bdi>
                </td>
              ))}
            </tr>
          ))}
        </tbody>
      </table>
    </Sheet>
  );
}
