import { useQuery } from "@tanstack/react-query";
import { useState } from "react";

import type { SignatureView } from "../api/client";
import { author, setAuthor } from "../api/client";
import { sessionQuery } from "../api/queries";
import { usePack, usePackControls } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { signing } from "./signing";
import { useReview } from "./useReview";

interface Props {
  /** The statement or the dashboard that is signed. */
  statement?: string;
  dashboard?: string;
  /** What it is called. */
  name: string;
}

/** Who prepared and reviewed a page, whether it still prints so, and a way to sign it. */
export function PageSignatures({ statement, dashboard, name }: Props) {
  const { pack } = usePack();
  const { keep } = usePackControls();
  const review = useReview();
  const { data: session } = useQuery(sessionQuery);
  const [typed, setTyped] = useState(author);
  const page = review?.pages.find((each) =>
    statement ? each.statement === statement : each.dashboard === dashboard,
  );
  const known = session?.name ?? "";
  const sign = (role: "prepared" | "reviewed") =>
    keep(signing(role, pack.edition, statement ? [statement] : [], dashboard ? [dashboard] : []));
  return (
    <section aria-label="Signatures">
      <h2 className="mb-1 text-[12px] font-semibold text-soft">Signatures under {name}</h2>
      <Signed how="Prepared" signatures={page?.prepared ?? []} />
      <Signed how="Reviewed" signatures={page?.reviewed ?? []} />
      {known ? null : (
        <div className="mt-1">
          <Field
            label="Your name"
            value={typed}
            placeholder="to sign with"
            most={80}
            onChange={(to) => {
              setTyped(to);
              setAuthor(to);
            }}
          />
        </div>
      )}
      <div className="mt-1.5 flex flex-wrap gap-1.5">
        {session?.role === "review" ? null : (
          <Button shortcut="x" className="px-2! py-0.5!" onClick={() => sign("prepared")}>
            Sign as prepared
          </Button>
        )}
        <Button shortcut="X" className="px-2! py-0.5!" onClick={() => sign("reviewed")}>
          Sign as reviewed
        </Button>
      </div>
    </section>
  );
}

const LOOKS = { stands: "text-moss", lifted: "text-ochre", brought: "text-soft" } as const;

function Signed({ how, signatures }: { how: string; signatures: readonly SignatureView[] }) {
  const { keep } = usePackControls();
  if (signatures.length === 0) {
    return (
      <p>
        {how} <span className="text-soft">by nobody yet</span>
      </p>
    );
  }
  return (
    <ul>
      {signatures.map((each) => (
        <li key={each.author}>
          {how} by <bdi className={`font-semibold ${LOOKS[each.standing]}`}>{each.author}</bdi>{" "}
          <span className="text-[12px] text-soft">{each.when}</span>
          {each.says ? <span className={`block ${LOOKS[each.standing]}`}>{each.says}</span> : null}
          {each.changed.map((said) => (
            <span key={said} className="block text-[12px]">
              <bdi>{said}</bdi>
            </span>
          ))}
          {each.more > 0 ? <span className="block text-[12px] text-soft">and {each.more} more</span> : null}
          {each.take_back ? (
            <button
              type="button"
              className="text-[12px] text-teal underline"
              onClick={() => each.take_back && keep(each.take_back)}
            >
              Take it back
            </button>
          ) : null}
        </li>
      ))}
    </ul>
  );
}
