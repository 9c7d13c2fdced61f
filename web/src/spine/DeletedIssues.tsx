import { useQuery } from "@tanstack/react-query";

import { deletedIssuesQuery } from "../api/queries";

/** What is left of issues whose packs were deleted. */
export function DeletedIssues() {
  const { data } = useQuery(deletedIssuesQuery);
  if (!data || data.length === 0) return null;
  return (
    <section aria-label="Issues of deleted packs" className="mt-4 border-t border-hairline pt-3">
      <h3 className="font-semibold">Issues whose packs were deleted</h3>
      <ul className="mt-1 space-y-2">
        {data.map((each) => (
          <li key={`${each.digest} ${each.deleted}`}>
            <p>
              <bdi>{each.entity}</bdi>, <bdi>{each.period}</bdi>: {each.edition}, issue {each.number},{" "}
              {each.state}
            </p>
            <p className="text-soft">
              Made {each.made} by {each.prepared_by}
              {each.reviewed_by ? `, reviewed by ${each.reviewed_by}` : ""}, to {each.recipients}.
              {each.withdrawn
                ? ` Withdrawn${each.withdrawn_by ? ` by ${each.withdrawn_by}` : ""}: ${each.withdrawn}`
                : ""}{" "}
              Deleted {each.deleted}
              {each.deleted_by ? ` by ${each.deleted_by}` : ""}.
            </p>
            <p className="font-mono text-[11px] break-all text-soft">SHA-256 {each.digest}</p>
          </li>
        ))}
      </ul>
    </section>
  );
}
