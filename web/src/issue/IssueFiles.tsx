import type { IssuePage } from "../api/client";
import type { Issuing } from "./useIssue";

/** The files that go out, each to be left out or put in. The pack and its figures always go with them. */
export function IssueFiles({ page, issuing }: { page: IssuePage; issuing: Issuing }) {
  const { chosen, say } = issuing;
  const toggle = (id: string) => {
    const now = page.choices.filter((each) => chosen(each.id, each.usual)).map((each) => each.id);
    say({ files: now.includes(id) ? now.filter((each) => each !== id) : [...now, id] });
  };
  return (
    <section aria-label="What goes out">
      <h3 className="text-[12px] font-semibold text-soft">What goes out</h3>
      <ul>
        {page.choices.map(({ id, says, kind, usual }) => (
          <li key={id} className="border-b border-hairline last:border-0">
            <label className="flex items-baseline gap-2 py-1">
              <input
                type="checkbox"
                className="accent-teal"
                checked={chosen(id, usual)}
                onChange={() => toggle(id)}
              />
              <span className="flex-1">{says}</span>
              <span className="text-soft">{kind}</span>
            </label>
          </li>
        ))}
      </ul>
      <p className="pt-1 text-[12px] text-soft">
        The pack file and every figure go with them, and a certificate where one is found.
      </p>
    </section>
  );
}
