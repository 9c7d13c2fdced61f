import { Check } from "lucide-react";

import type { LastCheck } from "../api/client";
import { usePackControls } from "../pack/OpenPack";
import { showFigure } from "../pack/focus";

interface Props {
  checks: readonly LastCheck[];
  reasons: Readonly<Record<string, string>>;
  onReason: (check: string, reason: string) => void;
}

/** The last checks: what holds, and for what does not, where to go, what settles it, or why it goes out so. */
export function LastChecks({ checks, reasons, onReason }: Props) {
  return (
    <ul aria-label="Checks">
      {checks.map((check) => (
        <OneCheck
          key={check.id}
          check={check}
          reason={reasons[check.id] ?? ""}
          onReason={(reason) => onReason(check.id, reason)}
        />
      ))}
    </ul>
  );
}

function OneCheck({
  check,
  reason,
  onReason,
}: {
  check: LastCheck;
  reason: string;
  onReason: (reason: string) => void;
}) {
  const { act } = usePackControls();
  const open = check.open.length + check.more;
  const { settle } = check;
  return (
    <li className="flex items-start gap-2.5 border-b border-hairline py-1.5 last:border-0">
      <span className="flex w-7 shrink-0">
        <Mark open={open} />
      </span>
      <div className="min-w-0 flex-1">
        <p>
          {check.says} <span className="text-[12px] text-soft">{check.evidence}</span>
        </p>
        {open > 0 ? (
          <>
            <ul className="mt-0.5 flex flex-wrap gap-x-3">
              {check.open.slice(0, 3).map((each) => (
                <li key={each.says}>
                  <Visit open={each} />
                </li>
              ))}
              {open > 3 ? <li className="text-soft">and {open - 3} more</li> : null}
            </ul>
            <p className="mt-0.5 flex flex-wrap items-baseline gap-x-2">
              {settle ? (
                <button
                  type="button"
                  className="rounded-sm border border-hairline px-2 whitespace-nowrap hover:border-teal"
                  onClick={() => act(settle)}
                >
                  {settle.kind === "sign" ? `Sign as ${settle.role}` : "Foot the pack"}
                </button>
              ) : null}
              <label className="flex min-w-0 flex-1 basis-64 flex-wrap items-baseline gap-x-2 text-soft">
                Issue it anyway, because
                <input
                  value={reason}
                  maxLength={500}
                  placeholder="say why"
                  className="min-w-0 flex-1 basis-24 border-b border-rust bg-paper px-1 text-ink"
                  onChange={(event) => onReason(event.target.value)}
                />
              </label>
            </p>
          </>
        ) : null}
      </div>
    </li>
  );
}

/** A ring with a tick where a check holds, a square with the count of what is open. */
export function Mark({ open }: { open: number }) {
  if (open === 0)
    return (
      <span className="mt-px inline-flex size-5 shrink-0 items-center justify-center rounded-full border border-moss text-moss">
        <Check aria-hidden className="size-3" />
        <span className="sr-only">holds</span>
      </span>
    );
  return (
    <span className="mt-px inline-flex h-5 min-w-5 shrink-0 items-center justify-center rounded-sm border border-rust bg-rust-wash px-1 text-[12px] font-semibold text-rust">
      {open}
      <span className="sr-only"> open</span>
    </span>
  );
}

function Visit({ open }: { open: LastCheck["open"][number] }) {
  const { go } = usePackControls();
  const { figure, statement, dashboard } = open;
  const visit = () => {
    if (dashboard) {
      go({ screen: "places", dashboard, item: null });
      return;
    }
    const [of, line, column] = figure ?? [];
    const place = line && column ? { line, column } : null;
    go({ screen: "page", statement: of ?? statement, place });
    if (place) showFigure(place);
  };
  if (!statement && !dashboard) return <span className="text-soft">{open.says}</span>;
  return (
    <button type="button" className="text-left text-teal underline hover:text-ink" onClick={visit}>
      {open.says}
    </button>
  );
}
