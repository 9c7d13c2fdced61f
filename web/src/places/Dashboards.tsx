import { useState } from "react";

import type { DashboardView } from "../api/client";
import { packOf } from "../api/keys";
import { usePackControls, usePack } from "../pack/OpenPack";
import { Button } from "../ui/Button";
import { Field } from "../ui/Field";
import { Sheet } from "../ui/Sheet";
import { addDashboard, editDashboard } from "../pack/formCommands";

/** The dashboards of the pack: each opens in the edition that it is for. */
export function Dashboards({ view }: { view: DashboardView | undefined }) {
  const { pack } = usePack();
  const { go, keep } = usePackControls();
  const [sheet, setSheet] = useState<"add" | "edit" | null>(null);
  const own = packOf(pack.id);
  const addressOf = (edition: string) => (edition === "own" ? own : `${own}@${edition}`);
  return (
    <div className="flex flex-wrap items-center gap-x-5 gap-y-1 pb-3" role="group" aria-label="Dashboards">
      {pack.dashboards.map(({ id, name, edition }) => (
        <button
          key={id}
          type="button"
          aria-current={id === view?.id ? "page" : undefined}
          className="border-b-2 border-transparent py-1 hover:border-hairline aria-[current]:border-ink aria-[current]:font-semibold"
          onClick={() => go({ pack: addressOf(edition), dashboard: id, item: null })}
        >
          {name}
          <span className="ml-1.5 text-[12px] font-normal text-soft">
            {pack.editions.find((each) => each.id === edition)?.name}
          </span>
        </button>
      ))}
      <span className="ml-auto flex items-center gap-2">
        <Button className="px-2! py-0.5!" onClick={() => setSheet("add")}>
          Add a dashboard
        </Button>
        {view ? (
          <Button className="px-2! py-0.5!" onClick={() => setSheet("edit")}>
            Change this one
          </Button>
        ) : null}
      </span>
      {sheet === "add" ? (
        <DashboardForm
          title="Another dashboard"
          name=""
          edition={pack.edition}
          onClose={() => setSheet(null)}
          onKeep={(name, edition) => {
            keep(addDashboard(name, edition), () => setSheet(null));
          }}
        />
      ) : null}
      {sheet === "edit" && view ? (
        <DashboardForm
          title={view.name}
          name={view.name}
          edition={view.edition}
          onClose={() => setSheet(null)}
          onKeep={(name, edition) => {
            keep(editDashboard({ dashboard: view.id, name, edition }), () => {
              setSheet(null);
              go({ pack: addressOf(edition) });
            });
          }}
          onRemove={() => {
            keep(view.remove, () => {
              setSheet(null);
              go({ dashboard: null, item: null });
            });
          }}
        />
      ) : null}
    </div>
  );
}

interface FormProps {
  title: string;
  name: string;
  edition: string;
  onClose: () => void;
  onKeep: (name: string, edition: string) => void;
  onRemove?: () => void;
}

/** What a dashboard is called, and whose readers it is for. */
function DashboardForm({ title, name: was, edition: of, onClose, onKeep, onRemove }: FormProps) {
  const { pack } = usePack();
  const [name, setName] = useState(was);
  const [edition, setEdition] = useState(of);
  return (
    <Sheet
      open
      onClose={onClose}
      title={title}
      says="A page of tiles, charts and passages for the readers of one edition."
    >
      <form
        className="space-y-3"
        onSubmit={(event) => {
          event.preventDefault();
          onKeep(name.trim(), edition);
        }}
      >
        <Field label="Called" value={name} placeholder="such as Board meeting" onChange={setName} />
        <fieldset>
          <legend className="text-[12px] font-semibold text-soft">For the readers of</legend>
          {pack.editions.map((each) => (
            <label key={each.id} className="flex items-center gap-2 py-0.5">
              <input
                type="radio"
                name="edition"
                className="accent-teal"
                checked={each.id === edition}
                onChange={() => setEdition(each.id)}
              />
              {each.name}
            </label>
          ))}
        </fieldset>
        <div className="flex gap-2">
          <Button main type="submit" disabled={!name.trim()}>
            Keep
          </Button>
          {onRemove ? <Button onClick={onRemove}>Remove it</Button> : null}
        </div>
      </form>
    </Sheet>
  );
}
